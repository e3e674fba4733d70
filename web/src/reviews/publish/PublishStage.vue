<script setup lang="ts">
import { useHelp } from '../../shared/help'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { day, words } from '../../shared/figures'
import { remember } from '../../shared/remember'
import { api, ask, outbox, send, underway, useAsked, type Schemas } from '../../shared/server'
import { useReview } from '../review'
import EditionAdds from './EditionAdds.vue'
import LetterList from './LetterList.vue'
import LineageLine from './LineageLine.vue'
import RetestStart from './RetestStart.vue'

type Kind = 'correction' | 're-test' | 'addendum'
const kinds: { kind: Kind; means: string; ask: string }[] = [
  { kind: 'correction', means: 'we erred', ask: 'What was wrong, in a sentence' },
  { kind: 're-test', means: 'another unit, or the same after a change', ask: 'What was repeated, and what is of the older one' },
  { kind: 'addendum', means: 'more was measured', ask: 'What was added' },
]

const book = useReview()
const review = computed(() => book.review!)
const asked = useAsked('publish', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/publish', { params: { path: { id } } })))
const state = asked.answer
const trouble = ref('')
const kind = remember<Kind | ''>(`edition kind ${book.id}`, '') // what the next edition is to those before it
const changed = remember(`edition changed ${book.id}`, '')
const first = computed(() => state.value?.next_number === 1)
// The first edition of a re-test is one of the older review; any other first one is to none.
const offered = computed(() => (!first.value ? kinds : review.value.follows ? kinds.filter((k) => k.kind === 're-test') : []))
watch(offered, (all) => { if (all.length === 1) kind.value = 're-test' }, { immediate: true })
const said = computed(() => !offered.value.length || (!!kind.value && !!changed.value.trim()))
const frozen = ref<Schemas['EditionView'] | null>(null) // just now
const busy = computed(() => outbox.facts.some((f) => f.what === 'edition' && f.review === book.id))
// Nothing typed or taken is still on its way.
const settled = computed(() => book.typed?.state === 'kept' && underway(book.id).length === 0)
onMounted(() => void book.typed?.flush())

/** The cards of an edition: one that follows another compares with it. */
const cards = (e: Schemas['EditionView']) => ['result', 'strip', 'correction', ...(e.kind && e.kind !== 'first' ? ['comparison'] : [])]
const blocking = computed(() => state.value?.obstacles.filter((o) => o.blocks) ?? [])
const open = computed(() => state.value?.obstacles.filter((o) => !o.blocks) ?? [])

async function freeze() {
  // The edition is of what is seen here, or it is none.
  const basis = state.value?.basis
  if (!basis) return
  trouble.value = ''
  frozen.value = null
  const got = await send<Schemas['EditionView']>({ what: 'edition', review: book.id, label: `edition ${state.value?.next_number}`, path: `/api/v1/reviews/${book.id}/editions`, json: (id) => (kind.value ? { id, basis, kind: kind.value, changed: changed.value } : { id, basis }) })
  if (got.ok) {
    kind.value = ''
    changed.value = ''
    await asked.again() // it is linked before it is announced
    frozen.value = got.data
    await nextTick()
    document.querySelector<HTMLElement>(`[data-edition="${got.data.id}"] a`)?.focus()
    return
  }
  trouble.value = got.refusal.title === 'Frozen already' ? got.refusal.message : got.refusal.stale ? 'The review has changed since this preview was made. It is shown anew: read it, then freeze it.' : got.refusal.words
  void asked.again()
}
useHelp(() => ({ title: 'Publish', keys: [], words: ['edition', 'correction', 're-test', 'addendum', 'obstacle', 'coverage'] }))
</script>

<template>
  <div v-if="state" class="stage">
    <section class="side">
      <h2>Edition {{ state.next_number }}</h2>
      <p v-if="trouble || asked.trouble.value" class="danger" role="alert">{{ trouble || asked.trouble.value }}</p>
      <template v-if="blocking.length">
        <h3>Must be put right first</h3>
        <ul>
          <li v-for="o in blocking" :key="o.detail" class="blocks"><RouterLink :to="`/reviews/${review.id}/${o.stage}`">{{ o.detail }}</RouterLink></li>
        </ul>
      </template>
      <template v-if="open.length">
        <h3>Will stand in the edition</h3>
        <ul>
          <li v-for="(o, i) in open" :key="i"><RouterLink :to="`/reviews/${review.id}/${o.stage}`">{{ o.detail }}</RouterLink></li>
        </ul>
      </template>
      <p v-if="!state.obstacles.length" class="soft">Nothing stands in the way.</p>
      <EditionAdds v-if="book.typed" />
      <p v-if="state.unchanged" role="status">Nothing has changed since edition {{ state.next_number - 1 }}: there is nothing to freeze.</p>
      <fieldset v-if="offered.length && !state.unchanged" class="kinds">
        <legend>{{ first ? 'To the review before it is' : `To edition ${state.next_number - 1} it is` }}</legend>
        <label v-for="k in offered" :key="k.kind"><input v-model="kind" type="radio" name="kind" :value="k.kind" /> <b>{{ k.kind === 'addendum' ? 'an' : 'a' }} {{ k.kind }}</b>: {{ k.means }}</label>
        <label v-if="kind" class="changed">{{ kinds.find((k) => k.kind === kind)?.ask }}<ElInput v-model="changed" name="changed" type="textarea" :rows="3" /></label>
      </fieldset>
      <ElButton type="primary" size="large" :disabled="!state.ready || busy || !settled || !said" name="freeze" @click="freeze">Freeze edition {{ state.next_number }}</ElButton>
      <p v-if="!settled" class="soft" role="status">Something is still on its way to the server: an edition would lack it.</p>
      <p class="soft">Its figures never change again, whatever becomes of readings and rule books. It is no certification, and says so.</p>
      <div v-if="state.editions.length" class="editions">
        <h3>Frozen</h3>
        <p v-if="frozen" class="just" role="status" aria-live="polite" data-frozen>Edition {{ frozen.number }} is frozen, and stands as it is.</p>
        <article v-for="e in [...state.editions].reverse()" :key="e.id" :data-edition="e.id">
          <b>Edition {{ e.number }}</b>, {{ e.kind && e.kind !== 'first' ? `${e.kind}, ` : '' }}{{ day(e.frozen_at) }}
          <p v-if="e.changed">{{ e.changed }}</p>
          <p>{{ words(e.headline) }}</p>
          <p class="links">
            <a :href="`/editions/${e.id}`" target="_blank">the page</a> <a :href="`/api/v1/editions/${e.id}/file`">in one file</a> <a :href="`/api/v1/editions/${e.id}/pdf?paper=a4`">PDF, A4</a> <a :href="`/api/v1/editions/${e.id}/pdf?paper=letter`">PDF, Letter</a>
            <a :href="`/api/v1/editions/${e.id}/text`" target="_blank">text to paste</a> <a :href="`/api/v1/editions/${e.id}/data`">its data, JSON</a> <a :href="`/api/v1/editions/${e.id}/package`">data package, all sweeps</a>
          </p>
          <p class="links">Cards <a v-for="c in cards(e)" :key="c" :href="`/api/v1/editions/${e.id}/cards/${c}.png`" target="_blank">{{ c }}</a> <a :href="`/api/v1/editions/${e.id}/cards/result.png?size=1080x1350`" target="_blank">result, upright</a></p>
          <p class="mono soft sum" :title="e.sha256">SHA-256 of the data {{ e.sha256.slice(0, 20) }}…</p>
          <p v-if="e.page_sha256" class="mono soft sum" :title="e.page_sha256">and of the page {{ e.page_sha256.slice(0, 20) }}…</p>
        </article>
      </div>
      <LineageLine :key="state.editions.length" />
      <LetterList />
      <RetestStart v-if="state.editions.length" />
    </section>
    <iframe :key="state.basis" :src="`/api/v1/reviews/${review.id}/preview?basis=${state.basis}`" title="The page as readers will see it" />
  </div>
  <p v-else-if="asked.trouble.value" class="danger" role="alert">{{ asked.trouble.value }}</p>
</template>

<style scoped>
.stage {
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
  gap: 28px;
}
iframe {
  width: 100%;
  height: calc(100vh - 110px);
  position: sticky;
  top: 20px;
  align-self: start;
  border: 1px solid var(--hair);
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0 16px;
  font-size: 15px;
}
li {
  border-left: 3px solid var(--amber);
  padding: 2px 10px;
  margin-bottom: 6px;
}
li.blocks {
  border-color: var(--rust);
}
.kinds {
  border: 0;
  padding: 0;
  margin: 0 0 14px;
  font-size: 15px;
}
.kinds legend {
  font-weight: 600;
  padding: 0;
}
.kinds label {
  display: block;
  margin: 4px 0;
}
.kinds input {
  accent-color: var(--ink);
}
.editions {
  border-top: 1px solid var(--hair);
  margin-top: 18px;
  padding-top: 10px;
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
article {
  font-size: 15px;
  margin-bottom: 14px;
}
article a {
  margin-right: 12px;
}
.just {
  border-left: 3px solid var(--ink);
  padding: 2px 10px;
}
.sum {
  font-size: 13px;
}
</style>
