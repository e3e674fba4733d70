<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { day, words } from '../shared/figures'
import { remember } from '../shared/remember'
import { api, ask, outbox, send, useAsked, wordsOf, type Review, type Schemas } from '../shared/server'
import KindWholes from '../shared/shapes/KindWholes.vue'

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

// Pages follow each other; the first is always the newest.
const after = ref('')
const earlier = ref<Schemas['ReviewSummary'][]>([])
const page = useAsked('reviews', () => [after.value] as const, (from) => ask(api.GET('/api/v1/reviews', { params: { query: from ? { after: from } : {} } })))
const reviews = computed(() => (page.answer.value ? [...earlier.value, ...page.answer.value.reviews] : earlier.value.length ? earlier.value : null))
function more() {
  earlier.value = reviews.value ?? []
  after.value = page.answer.value?.next ?? ''
}
watch(after, () => void nextTick(() => document.querySelector<HTMLElement>('.card:last-of-type')?.focus()))

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
</script>

<template>
  <div class="page">
    <header>
      <h1>Reviews</h1>
      <p class="soft">One unit on test each: from its claim to an edition that stands.</p>
    </header>
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
    <p v-if="trouble || page.trouble.value" class="danger" role="alert">{{ trouble || page.trouble.value }}</p>
    <p v-if="starting?.state === 'waiting'" class="soft" role="status">{{ starting.label }}: {{ starting.why }}</p>
    <div v-if="reviews?.length === 0" class="sheet">
      <h2>No radio on the bench yet</h2>
      <p>Name one above. You then type what its maker claims, key it into a load, sweep it through pads, and read the ruling.</p>
    </div>
    <RouterLink v-for="r in reviews ?? []" :key="r.id" class="sheet card" :to="`/reviews/${r.id}/ruling`">
      <div>
        <h2>{{ r.title }}</h2>
        <KindWholes :kinds="r.kinds" :size="34" />
        <p>{{ words(r.headline) }}</p>
        <p v-if="r.before" class="soft small" data-later>ruled by a later program; before it said: {{ words(r.before) }}</p>
        <p v-if="r.changes" class="soft small">changed: {{ r.changes }}</p>
        <p class="soft small">
          {{ r.editions === 0 ? 'no edition yet' : r.editions === 1 ? '1 edition' : `${r.editions} editions` }}, last changed {{ day(r.updated_at) }}
        </p>
      </div>
    </RouterLink>
    <p v-if="page.answer.value?.next"><ElButton name="older" @click="more">Older reviews</ElButton></p>
  </div>
</template>

<style scoped>
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
  padding: 32px 40px;
}
.new {
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  align-items: end;
  margin: 20px 0 24px;
}
.card {
  display: block;
  text-decoration: none;
  margin-bottom: -1px;
}
.card:hover {
  background: var(--press);
}
.small {
  font-size: 14px;
}
.new .el-input {
  flex: 0 1 240px;
}
</style>
