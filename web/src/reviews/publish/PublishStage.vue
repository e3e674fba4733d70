<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, ask, newKey, type Refusal, type Schemas } from '../../shared/api/client'
import { day, words } from '../../shared/figures'
import { useReview } from '../review'

const book = useReview()
const review = computed(() => book.review!)
const state = ref<Schemas['PublishView'] | null>(null)
const trouble = ref('')
const busy = ref(false)
const look = ref(0)
let key = newKey()

const blocking = computed(() => state.value?.obstacles.filter((o) => o.blocks) ?? [])
const open = computed(() => state.value?.obstacles.filter((o) => !o.blocks) ?? [])

onMounted(load)
async function load() {
  try {
    await book.flush()
    state.value = await ask(api.GET('/api/v1/reviews/{id}/publish', { params: { path: { id: review.value.id } } }))
    look.value++
  } catch (e) {
    trouble.value = (e as Refusal).words
  }
}

async function freeze() {
  busy.value = true
  try {
    await ask(api.POST('/api/v1/reviews/{id}/editions', { params: { path: { id: review.value.id } }, body: { id: key } }))
    key = newKey()
    trouble.value = ''
    await book.load(review.value.id)
    await load()
  } catch (e) {
    trouble.value = (e as Refusal).words
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div v-if="state" class="stage">
    <section class="side">
      <h2>Edition {{ state.next_number }}</h2>
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
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
      <ElButton type="primary" size="large" :disabled="!state.ready || busy" name="freeze" @click="freeze">Freeze edition {{ state.next_number }}</ElButton>
      <p class="soft">Its figures never change again, whatever becomes of readings and rule books. It is no certification, and says so.</p>
      <div v-if="state.editions.length" class="editions">
        <h3>Frozen</h3>
        <article v-for="e in [...state.editions].reverse()" :key="e.id">
          <b>Edition {{ e.number }}</b>, {{ day(e.frozen_at) }}
          <p>{{ words(e.headline) }}</p>
          <p><a :href="`/api/v1/editions/${e.id}/page`" target="_blank">the page</a> <a :href="`/api/v1/editions/${e.id}/data`">its data, JSON</a></p>
          <p class="mono soft sum" :title="e.sha256">SHA-256 {{ e.sha256.slice(0, 24) }}…</p>
        </article>
      </div>
    </section>
    <iframe :key="look" :src="`/api/v1/reviews/${review.id}/preview`" title="The page as readers will see it" />
  </div>
  <p v-else-if="trouble" class="danger" role="alert">{{ trouble }}</p>
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
.editions {
  border-top: 1px solid var(--hair);
  margin-top: 18px;
  padding-top: 10px;
}
article {
  font-size: 15px;
  margin-bottom: 14px;
}
article a {
  margin-right: 12px;
}
.sum {
  font-size: 13px;
}
</style>
