<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import OutboxStrip from '../shared/OutboxStrip.vue'
import { useTitled } from '../shared/titled'
import { remember } from '../shared/remember'
import { underway } from '../shared/server'
import { isLeft } from '../shared/typing'
import { useBench } from '../bench/bench'
import FirstAfternoon from '../practice/FirstAfternoon.vue'
import PracticeHands from '../practice/PracticeHands.vue'
import { useReview } from './review'

const route = useRoute()
const router = useRouter()
const book = useReview()
const id = computed(() => String(route.params.id))
watch(id, (v) => (book.id = v), { immediate: true })
// A practice review has a bench of its own.
const bench = useBench()
const practises = computed(() => Boolean(book.review?.practice))
watch(() => (practises.value ? id.value : ''), (of) => (bench.practice = of), { immediate: true })
onBeforeUnmount(() => (bench.practice = ''))
const leaf = ref<HTMLElement>()
const stages = computed(() => book.review?.stages ?? [])
const titled = useTitled()
watch(() => [book.review?.subject, stages.value, route.path] as const, () => {
  const s = book.review?.subject
  const name = [s?.maker, s?.model].filter(Boolean).join(' ')
  const at = stages.value.flatMap((x) => [x, ...(x.kinds ?? [])]).find((x) => x.name === route.path.split('/')[3])?.title
  titled.value = s ? `${at ? `${at}: ` : ''}${name}` : ''
}, { immediate: true })
onBeforeUnmount(() => (titled.value = ''))
const waiting = computed(() => underway(id.value).filter((f) => f.state === 'waiting'))

// The further tests share one stage, which opens where one was; its digit again goes on to the next,
// with Shift to the one before.
const last = remember('further test', '')
const kind = computed(() => route.path.split('/')[3] ?? '')
const further = computed(() => stages.value.find((s) => s.kinds?.some((k) => k.name === kind.value))?.kinds ?? [])
watch(further, (f) => { if (f.length) last.value = kind.value }, { immediate: true })
watch(kind, (k) => { if (further.value.length) last.value = k })
type Stage = (typeof stages.value)[number]
const isOpen = (s: Stage) => s.name === kind.value || !!s.kinds?.some((k) => k.name === kind.value)
const place = (s: Stage) => `/reviews/${id.value}/${s.kinds ? (s.kinds.find((k) => k.name === last.value) ?? s.kinds[0]!).name : s.name}`
function next(s: Stage, by: number) {
  const at = s.kinds?.findIndex((k) => k.name === kind.value) ?? -1
  return at < 0 ? place(s) : `/reviews/${id.value}/${s.kinds![(at + by + s.kinds!.length) % s.kinds!.length]!.name}`
}

const states = { kept: '', keeping: 'saving', waiting: 'not saved yet', refused: 'not saved', clashing: 'changed in another window too' }
const shown = (v: unknown) => (Array.isArray(v) ? v.map((c: { text?: string }) => c.text ?? '').join(', ') : String(v ?? '')) || 'nothing'

// A stage answers to Alt and its digit, anywhere; a bare digit is always something typed.
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (e.key === 'Escape') leave(e)
  if (e.ctrlKey || e.metaKey || e.defaultPrevented || !e.altKey) return
  const stage = stages.value.find((s) => s.key === e.code.replace(/^(Digit|Numpad)/, ''))
  if (!stage) return
  e.preventDefault()
  void router.push(next(stage, e.shiftKey ? -1 : 1))
})
/** Escape leaves a field for the page, where keys are commands; one that has a use for it has it first. */
function leave(e: KeyboardEvent) {
  const left = e.target
  if (isLeft(left) && !e.defaultPrevented) (left as HTMLElement).blur()
  void nextTick(() => { if (document.activeElement === document.body) leaf.value?.focus() })
}
// A list to choose from keeps Escape to itself, also where it is closed.
useEventListener(window, 'keydown', (e: KeyboardEvent) => { if (e.key === 'Escape' && (e.target as HTMLElement).matches?.('input[readonly]')) leave(e) }, { capture: true })
</script>

<template>
  <div class="book" :class="{ practises }">
    <section ref="leaf" class="leaf" tabindex="-1">
      <header>
        <h1>{{ book.review?.title ?? ' ' }}</h1>
        <span class="soft state" :class="{ danger: book.typed && !['kept', 'keeping'].includes(book.typed.state) }" aria-live="polite" data-kept>{{ book.typed ? states[book.typed.state] : '' }}<template v-if="waiting.length"> {{ waiting.length }} on the way</template></span>
      </header>
      <p v-if="book.trouble" class="danger trouble" role="alert">{{ book.trouble }}</p>
      <p v-if="book.typed?.trouble" class="danger trouble" role="alert">{{ book.typed.trouble }}</p>
      <p v-for="p in book.typed?.problems ?? []" :key="p.field" class="danger trouble" role="alert">{{ p.field }}: {{ p.detail }}</p>
      <div v-if="book.typed?.clashes.length" class="trouble" role="alert">
        <p class="danger">Another window changed the same: which stands?</p>
        <div v-for="c in book.typed.clashes" :key="c.field" class="clash">
          <span class="soft">{{ c.field.replace('subject.', '').replace('rules.', '').replaceAll('_', ' ') }}</span>
          <span>here: <b>{{ shown(c.mine) }}</b></span><span>there: <b>{{ shown(c.theirs) }}</b></span>
          <span><ElButton size="small" @click="book.typed.settle(c.field, 'mine')">Mine</ElButton> <ElButton size="small" @click="book.typed.settle(c.field, 'theirs')">The other</ElButton></span>
        </div>
      </div>
      <PracticeHands v-if="practises" :key="`hands ${id}`" :review="id" />
      <FirstAfternoon v-if="book.review?.practice === 'first-afternoon'" :key="`guide ${id}`" :review="id" />
      <OutboxStrip :review="id" />
      <nav v-if="further.length > 1" class="further" aria-label="More tests">
        <RouterLink v-for="k in further" :key="k.name" :to="`/reviews/${id}/${k.name}`">{{ k.title }}</RouterLink> <kbd title="the next of them; with Shift the one before">Alt 5</kbd>
      </nav>
      <p v-if="!book.review && !book.trouble" class="soft" role="status">Looking…</p>
      <RouterView v-if="book.review" :key="id" />
    </section>
    <nav class="tabs" aria-label="Stages">
      <RouterLink v-for="s in stages" :key="s.name" :to="place(s)" class="tab" :class="{ open: isOpen(s) }">
        <i class="fill" :style="{ height: `${s.done * 100}%` }" />
        <span>{{ s.title }}</span> <kbd>Alt {{ s.key }}</kbd>
      </RouterLink>
    </nav>
  </div>
</template>

<style scoped>
.book {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 156px;
  min-height: 100vh;
}
.leaf {
  background: var(--sheet);
  border-right: 1px solid var(--hair);
  padding: 18px 28px 28px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--hair);
  padding-bottom: 10px;
  margin-bottom: 16px;
}
h1 {
  font-size: 21px;
}
.trouble {
  border-left: 3px solid var(--rust);
  padding: 4px 12px;
}
.tabs {
  position: sticky;
  top: 0;
  height: 100vh;
  padding-top: 64px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.tab {
  position: relative;
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 16px 10px 16px 14px;
  margin-left: -1px;
  border: 1px solid var(--hair);
  border-left: 0;
  border-radius: 0 6px 6px 0;
  text-decoration: none;
  font-size: 15px;
  color: var(--soft);
}
.tab.open {
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
}
.tab kbd {
  white-space: nowrap;
}
.fill {
  position: absolute;
  right: -1px;
  bottom: 0;
  width: 4px;
  background: var(--ink);
  border-radius: 0 0 4px 0;
}
.further {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  align-items: baseline;
  margin: -4px 0 12px;
  white-space: nowrap;
  font-size: 14px;
  color: var(--soft);
}
.further a {
  font-size: 15px;
  color: var(--soft);
  text-decoration: none;
}
.further .router-link-active {
  color: var(--ink);
  font-weight: 600;
  border-bottom: 2px solid var(--ink);
}
.state {
  font-size: 14px;
}
.clash {
  display: grid;
  grid-template-columns: 150px 1fr 1fr auto;
  gap: 4px 16px;
  align-items: baseline;
}
/* Practice stands on ruled paper, never on the ground of a real review. */
.practises .leaf {
  background-image: repeating-linear-gradient(to bottom, transparent 0 31px, color-mix(in srgb, var(--hair) 38%, transparent) 31px 32px);
}
.leaf:focus {
  outline: none;
}
@media (max-width: 1150px) {
  .book {
    grid-template-columns: minmax(0, 1fr) 112px;
  }
  .leaf {
    padding: 14px 18px 24px;
  }
  .tab {
    flex-direction: column;
    align-items: flex-start;
    gap: 3px;
    padding: 8px;
  }
}
/* The stages stand in a row over the page where there is no room beside it. */
@media (max-width: 820px) {
  .book {
    display: flex;
    flex-direction: column-reverse;
    justify-content: flex-end;
  }
  .tabs {
    position: static;
    height: auto;
    padding: 0;
    flex-flow: row wrap;
    gap: 0;
  }
  .tab {
    border: 0;
    border-radius: 0;
    padding: 6px 10px;
    margin: 0;
  }
  .tab kbd {
    display: none;
  }
  .fill {
    display: none;
  }
  .leaf {
    border-right: 0;
  }
}
</style>
