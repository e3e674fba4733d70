<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { day, words } from '../shared/figures'
import { useHelp } from '../shared/help'
import { remember } from '../shared/remember'
import { api, ask, outbox, send, useAsked, wordsOf, type Review, type Schemas } from '../shared/server'
import KindWholes from '../shared/shapes/KindWholes.vue'
import { useBegin } from '../practice/begin'
import FindReviews, { nothingSought, type Sought } from './FindReviews.vue'

const router = useRouter()
const maker = remember('new maker', '')
const model = remember('new model', '')
const trouble = ref('')
const starting = computed(() => outbox.facts.find((f) => f.what === 'review'))

// Said once for the publication: which amateur bands and rule books new reviews begin with.
const publication = useAsked('publication', () => [] as const, () => ask(api.GET('/api/v1/publication')))
const region = computed(() => publication.answer.value?.itu_region ?? null)
const regions = [[1, 'Europe, Africa, the north of Asia'], [2, 'the Americas'], [3, 'the rest of Asia, Oceania']] as const
async function publishFrom(itu_region: number) {
  try {
    await ask(api.PUT('/api/v1/publication', { body: { itu_region: itu_region as 1 } }))
  } catch (e) {
    trouble.value = wordsOf(e)
  }
  void publication.again()
}

// Who publishes: saved as it is left; what could not be saved stays in its field.
const who = ref<Schemas['RecordPublication'] | null>(null)
watch(() => publication.answer.value?.who, (w) => { if (w && !who.value) who.value = { ...w } }, { immediate: true })
const fields = [['name', 'Name of the publication'], ['people', 'By whom'], ['contact', 'Where to write'], ['licence', 'Licence of text and data'], ['address', 'Address that readers reach it at']] as const
async function sayWho() {
  trouble.value = ''
  try {
    await ask(api.PUT('/api/v1/publication', { body: { who: who.value ?? {} } }))
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}

// Pages follow each other; what is sought for begins them anew.
const sought = ref<Sought>({ ...nothingSought })
const finding = computed(() => JSON.stringify({ ...sought.value, sort: '' }) !== JSON.stringify({ ...nothingSought, sort: '' }))
const after = ref('')
const earlier = ref<Schemas['ReviewSummary'][]>([])
watch(sought, () => {
  after.value = ''
  earlier.value = []
}, { deep: true, flush: 'sync' })
const page = useAsked('reviews', () => [after.value, sought.value] as const, (after, s: Sought) =>
  ask(api.GET('/api/v1/reviews', { params: { query: { ...(after ? { after } : {}), ...(s.q.trim() ? { q: s.q.trim() } : {}), ...(s.band ? { band: s.band } : {}), ...(s.verdict ? { verdict: s.verdict as 'pass' } : {}), ...(s.since ? { since: s.since } : {}), ...(s.until ? { until: s.until } : {}), unfinished: s.unfinished, away: s.away, sort: s.sort } } })),
  (was, now) => was[0] === now[0])
const reviews = computed(() => (page.answer.value ? [...earlier.value, ...page.answer.value.reviews] : earlier.value.length ? earlier.value : null))
const first = computed(() => reviews.value?.find((r) => r.id === publication.answer.value?.demo))
function more() {
  earlier.value = reviews.value ?? []
  after.value = page.answer.value?.next ?? ''
}
watch(after, (a) => void (a && nextTick(() => document.querySelector<HTMLElement>('.card:last-of-type a')?.focus())))

// What was put away can be brought back at once, and later from among those put away.
const lately = ref<{ id: string; title: string } | null>(null)
async function putAway(id: string, title: string, away: boolean) {
  trouble.value = ''
  try {
    await ask(api.PUT('/api/v1/reviews/{id}/away', { params: { path: { id } }, body: { away } }))
    lately.value = away ? { id, title } : null
    earlier.value = earlier.value.filter((r) => r.id !== id)
    void page.again()
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}

async function start() {
  if (!model.value.trim()) {
    trouble.value = 'Type at least the model of the radio.'
    return
  }
  if (starting.value) return
  trouble.value = ''
  const subject = { maker: maker.value.trim(), model: model.value.trim(), come_by: '' as const, interest: '' as const }
  const made = await send<Review>({ what: 'review', review: '', label: `${subject.maker} ${subject.model}`, path: '/api/v1/reviews', json: (id) => ({ id, subject }) })
  if (!made.ok) {
    trouble.value = made.refusal.words
    return
  }
  maker.value = model.value = ''
  if (router.currentRoute.value.path === '/reviews') await router.push(`/reviews/${made.data.id}/radio`)
}

const practice = useBegin()
useHelp(() => ({ title: 'Reviews', keys: [['Enter', 'in Model: starts the review']], words: ['review', 'claim', 'ruling', 'passes so far', 'too close to call', 'no limit', 'void', 'coverage', 'edition'] }))
</script>

<template>
  <div class="page">
    <header>
      <h1>Reviews</h1>
      <p class="soft">Key a radio, read your meter and analyzer: Tall Oak does the arithmetic, holds it against claim and rule book, says how far was looked, and publishes an edition that stands.</p>
    </header>
    <section v-if="publication.answer.value?.demo" class="demo" data-demo>
      <b>This is the demo.</b> Every radio, instrument and figure in it is invented.
      <template v-if="first">Open this first: <RouterLink :to="`/reviews/${first.id}/ruling`">{{ first.title }}</RouterLink>, which gives less than it claims and sends what it must not.</template>
      Or do it yourself: <button type="button" class="link" name="first-afternoon" :disabled="!!practice.beginning.value" @click="practice.begin('first-afternoon')">a first afternoon</button>, ten minutes on a simulated bench.
    </section>
    <form class="new" @submit.prevent="start">
      <ElInput v-model="maker" placeholder="Maker" aria-label="Maker" name="maker" autofocus />
      <ElInput v-model="model" placeholder="Model" aria-label="Model" name="model" />
      <ElButton type="primary" native-type="submit" :disabled="!!starting">Start a review</ElButton>
    </form>
    <p v-if="region === 0" class="asked"><b>Where do you publish from?</b> New reviews begin with its bands and rule books.</p>
    <p v-if="region != null" class="soft region" data-region>
      {{ region === 0 ? 'ITU region' : 'New reviews begin in ITU region' }}
      <button v-for="[n, where] in regions" :key="n" type="button" class="option" :name="`region-${n}`" :aria-pressed="region === n" @click="publishFrom(n)">{{ n }} <small>{{ where }}</small></button>
    </p>
    <details v-if="who" class="who">
      <summary>{{ who.name ? `Published by ${who.name}` : 'Who publishes? It stands in every edition.' }}</summary>
      <label v-for="[f, l] in fields" :key="f">{{ l }}<ElInput v-model="who[f]" :name="`who-${f}`" @change="sayWho" /></label>
    </details>
    <p v-if="trouble || practice.trouble.value || page.trouble.value" class="danger" role="alert">{{ trouble || practice.trouble.value || page.trouble.value }}</p>
    <p v-if="starting?.state === 'waiting'" class="soft" role="status">{{ starting.label }}: {{ starting.why }}</p>
    <FindReviews v-if="reviews?.length || finding" v-model="sought" />
    <p v-if="lately" class="undo" role="status">{{ lately.title }} was put away. <ElButton size="small" name="bring-back" @click="putAway(lately.id, lately.title, false)">Bring it back</ElButton></p>
    <p v-if="page.waiting.value && !reviews" class="soft" role="status">Looking…</p>
    <div v-if="reviews?.length === 0 && !finding" class="sheet" data-empty>
      <h2>No radio on the bench yet</h2>
      <p>Name one above. You then type what its maker claims, key it into a load, look at it through pads, and read the ruling. Your instruments go on the <RouterLink to="/bench/paths">Bench</RouterLink>, a line each.</p>
      <p>Never done it? <ElButton size="small" name="first-afternoon" :disabled="!!practice.beginning.value" @click="practice.begin('first-afternoon')">A first afternoon</ElButton> on a simulated bench: three key-ups, one look and what an edition says of it, in ten minutes.</p>
    </div>
    <p v-else-if="reviews?.length === 0" class="soft">{{ sought.away ? 'Nothing that was put away fits.' : 'No review fits.' }} <button type="button" class="link" @click="sought = { ...nothingSought }">show all</button></p>
    <article v-for="r in reviews ?? []" :key="r.id" class="sheet card">
      <h2><RouterLink :to="`/reviews/${r.id}/ruling`">{{ r.title }}</RouterLink></h2>
      <KindWholes :kinds="r.kinds" :size="34" />
      <p>{{ words(r.headline) }}</p>
      <p v-if="r.before" class="soft small" data-later>ruled by a later program; before it said: {{ words(r.before) }}</p>
      <p v-if="r.changes" class="soft small">changed: {{ r.changes }}</p>
      <p class="soft small">
        {{ r.editions === 0 ? 'no edition yet' : r.editions === 1 ? '1 edition' : `${r.editions} editions` }}, last changed {{ day(r.updated_at) }}
        <button type="button" class="link away" :name="sought.away ? 'back' : 'away'" @click="putAway(r.id, r.title, !sought.away)">{{ sought.away ? 'bring it back' : 'put it away' }}</button>
      </p>
    </article>
    <p v-if="page.answer.value?.next"><ElButton name="older" @click="more">Older reviews</ElButton></p>
  </div>
</template>

<style scoped>
.demo {
  border-left: 4px solid var(--ink);
  padding: 4px 14px;
  margin: 12px 0 0;
}
.asked {
  margin-bottom: 0;
}
.region {
  margin-bottom: 22px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: baseline;
  font-size: 15px;
}
.who {
  margin-bottom: 20px;
  font-size: 15px;
}
.who label {
  display: block;
  max-width: 520px;
  margin: 6px 0;
}
.page {
  max-width: 1020px;
  padding: 28px 40px;
}
.new {
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  align-items: end;
  margin: 18px 0 20px;
}
.card {
  position: relative;
  margin-bottom: -1px;
  overflow-wrap: anywhere;
}
.card h2 a {
  text-decoration: none;
}
/* The whole card leads to its review. */
.card h2 a::after {
  content: '';
  position: absolute;
  inset: 0;
}
.card:hover {
  background: var(--press);
}
.away {
  position: relative;
  margin-left: 14px;
}
.small {
  font-size: 14px;
}
.new .el-input {
  flex: 0 1 240px;
}
</style>
