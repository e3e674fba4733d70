<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { cured, useBench } from '../../bench/bench'
import { api, ask, newKey, send, useAsked, wordsOf, type Emissions, type Keyed } from '../../shared/server'
import { type Standing } from '../../shared/StandingWords.vue'
import { stands } from '../../scratch/standing'
import { isField } from '../../shared/typing'
import BoxPicker from '../../reviews/BoxPicker.vue'
import { useChosen, useReview, useStaircase, useWays } from '../../reviews/review'
import StepWords from '../../reviews/sheet/StepWords.vue'
import { useSteps } from '../../reviews/sheet/steps'
import LevelsView from './LevelsView.vue'
import StatesView from './StatesView.vue'
import StudyView from './StudyView.vue'
import TakeView from './TakeView.vue'

const book = useReview()
const review = computed(() => book.review!)
const bench = useBench()
const { at, cell } = useChosen('emissions', () => book.cells)
const paths = computed(() => bench.paths.filter((p) => p.purpose === 'emissions'))
const ways = useWays('emissions', () => cell.value, () => paths.value)
const pathId = ways.pathId
const trouble = ref('')
type View = 'take' | 'study' | 'levels' | 'states'
const chosen = ref<View | null>(null) // where a person said so
const looked = ref(0) // the carrier looked at; 0 for the worst of the box

// With the run sheet the next step follows.
const steps = useSteps()
const step = computed(() => (steps.now.value?.kind === 'emissions' && steps.now.value.box === cell.value?.name ? steps.now.value : null))
/** The next step where the run sheet is followed, else the next box. */
function along(by: number) {
  if (step.value) return move(by)
  at.value = (at.value + by + book.cells.length) % Math.max(1, book.cells.length)
}
function move(by: number) {
  const next = steps.beside(by)
  if (!next) return
  if (next.kind !== 'emissions') return void steps.open(next)
  steps.take(next)
  at.value = book.cells.findIndex((c) => c.name === next.box)
  pathId.value = next.path_id
}

const stairs = useStaircase(() => cell.value, () => pathId.value)

// What the scratch pad may be filled in with.
watch([cell, stairs.answer], () => {
  const c = cell.value
  const loss = stairs.answer.value?.loss_db[0]
  if (c) stands({ mhz: String(book.frequencyOf(c) / 1e6), w: c.claimed_w > 0 ? String(c.claimed_w) : '', loss: loss == null ? '' : String(Number(loss.toFixed(2))), book: review.value.rules.books?.[c.band.name] ?? review.value.rules.rule_book })
}, { immediate: true })

// The ruling on this box at this carrier, and on no other.
const ask1 = useAsked<[string, Keyed], Emissions>(
  'ruling',
  () => (cell.value ? ([book.id, { ...book.keyed(cell.value), frequency_hz: looked.value }] as const) : null),
  (id, query) => ask(api.GET('/api/v1/reviews/{id}/measure/emissions/ruling', { params: { path: { id }, query } })),
)
const found = ask1.answer
const view = computed<View>(() => chosen.value ?? (found.value?.sweeps.length === 0 ? 'take' : 'study'))
const taking = computed(() => view.value === 'take')
const views: [View, string, string][] = [['take', 'Take', 'l'], ['study', 'Study', 'y'], ['levels', 'By level', 'v'], ['states', 'By state', 'a']]
const take = ref<InstanceType<typeof TakeView>>()
function open(to: View) {
  chosen.value = to
  if (to === 'take') void nextTick(() => take.value?.toLine())
}
function openBox(name: string) {
  at.value = book.cells.findIndex((c) => c.name === name)
  void nextTick(() => (chosen.value = 'study'))
}
watch(at, () => {
  chosen.value = null
  looked.value = 0
  trouble.value = ''
})

useEventListener('keydown', (e: KeyboardEvent) => {
  if (isField(e.target) || e.ctrlKey || e.metaKey || e.altKey) return
  const turn = views.find(([, , key]) => key === e.key)
  const steps = { ArrowDown: () => along(1), ArrowUp: () => along(-1) }[e.key]
  const act = turn ? () => open(turn[0]) : e.key === '+' ? second : e.key === 'm' && taking.value ? ways.next : steps
  if (!act) return
  e.preventDefault()
  act()
})

/** A second look at the same step with about 10 dB more: the path that has them, or one made of this and a pad. */
async function second() {
  const more = stairs.answer.value?.more
  const kept = bench.bench?.paths.find((p) => p.id === pathId.value)
  trouble.value = ''
  if (!more || !kept) {
    trouble.value = stairs.answer.value ? 'No pad of about 10 dB that would be safe in front of the analyzer is on the bench: add one, or take another path.' : ''
    return
  }
  const parts = cured(kept.parts, more)
  const same = paths.value.find((p) => p.parts.length === parts.length && p.parts.every((x, i) => x.kit_id === parts[i]!.kit_id && x.setting === parts[i]!.setting))
  try {
    pathId.value = same?.id ?? (await bench.writePath({ ...kept, id: newKey(), version: 0 }, { name: `${kept.name}, with ${more.detail}`.slice(0, 200), parts })).id
    chosen.value = 'take'
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}

async function say(target_id: string, standing: Standing, reason: string) {
  await send({ what: 'standing', review: book.id, label: `${standing}: ${reason}`, about: target_id, stays: true, path: `/api/v1/reviews/${book.id}/standings`, json: (id) => ({ id, target_id, standing, reason }) })
}
</script>

<template>
  <p v-if="book.cells.length === 0" class="soft">Nothing to sweep yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink> first.</p>
  <div v-else-if="cell" class="stage">
    <BoxPicker v-model="at" :cells="book.cells">
      <span class="more" role="group" aria-label="View"><button v-for="[name, says, key] in views" :key="name" type="button" class="option" :name="`view-${name}`" :aria-pressed="view === name" @click="chosen = name">{{ says }} <kbd>{{ key }}</kbd></button></span>
      <span v-if="step" class="soft"><StepWords :steps="steps" @move="move" /></span>
    </BoxPicker>
    <p v-if="trouble || ask1.trouble.value || bench.trouble" class="danger trouble" role="alert">{{ trouble || ask1.trouble.value || bench.trouble }}</p>
    <KeepAlive>
      <TakeView v-if="taking" ref="take" :cell="cell" :fits="ways.fits.value" :instead="ways.instead.value" :path-id="pathId" :stairs="stairs.answer.value" :stairs-trouble="stairs.trouble.value" :left="(found?.ruling?.coverage.left as [number, number][] | undefined) ?? null" :looks="found?.sweeps.filter((s) => s.look).length ?? 0"
        @path="pathId = $event" @move="along" @taken="chosen = $event ? 'states' : null" />
    </KeepAlive>
    <LevelsView v-if="view === 'levels'" :review="book.id" :chosen="cell.name" @choose="openBox" />
    <StatesView v-if="view === 'states'" :review="book.id" :band="cell.band.name" @say="say" />
    <StudyView v-if="view === 'study' && found" :found="found" :box="cell?.name ?? ''" :rule="review.rules.decision_rule" :second="stairs.answer.value?.more != null" @carrier="looked = $event" @second="second" @say="say" />
  </div>
</template>

<style scoped>
.more {
  margin-left: auto;
}
.more button {
  font-size: 15px;
}
.trouble {
  border-left: 3px solid var(--rust);
  padding: 4px 12px;
}
</style>
