<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, newKey, type Refusal, type Schemas } from '../shared/api/client'
import { day, words } from '../shared/figures'
import TwoWholes from '../shared/shapes/TwoWholes.vue'

const router = useRouter()
const reviews = ref<Schemas['ReviewSummary'][] | null>(null)
const trouble = ref('')
const maker = ref('')
const model = ref('')
let key = newKey()

onMounted(async () => {
  try {
    reviews.value = await ask(api.GET('/api/v1/reviews'))
  } catch (e) {
    trouble.value = (e as Refusal).message
  }
})

async function start() {
  if (!model.value.trim()) {
    trouble.value = 'Type at least the model of the radio.'
    return
  }
  const subject = {
    maker: maker.value.trim(), model: model.value.trim(), serial: '', date_code: '', firmware: '', changes: '',
    come_by: '' as const, come_by_note: '', interest: '' as const,
  }
  try {
    const made = await ask(api.POST('/api/v1/reviews', { body: { id: key, subject } }))
    key = newKey()
    await router.push(`/reviews/${made.id}/radio`)
  } catch (e) {
    trouble.value = (e as Refusal).words
  }
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Reviews</h1>
      <p class="soft">One unit on test each: from its claim to an edition that stands.</p>
    </header>
    <form class="new" @submit.prevent="start">
      <ElInput v-model="maker" placeholder="Maker" aria-label="Maker" name="maker" />
      <ElInput v-model="model" placeholder="Model" aria-label="Model" name="model" />
      <ElButton type="primary" native-type="submit">Start a review</ElButton>
    </form>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <div v-if="reviews?.length === 0" class="sheet">
      <h2>No radio on the bench yet</h2>
      <p>Name one above. You then type what its maker claims, key it into a load, sweep it through pads, and read the ruling.</p>
    </div>
    <RouterLink v-for="r in reviews ?? []" :key="r.id" class="sheet card" :to="`/reviews/${r.id}/ruling`">
      <div>
        <h2>{{ r.title }}</h2>
        <TwoWholes :power="r.power" :emissions="r.emissions" :size="34" />
        <p>{{ words(r.headline) }}</p>
        <p v-if="r.changes" class="soft small">changed: {{ r.changes }}</p>
        <p class="soft small">
          {{ r.editions === 0 ? 'no edition yet' : r.editions === 1 ? '1 edition' : `${r.editions} editions` }}, last changed {{ day(r.updated_at) }}
        </p>
      </div>
    </RouterLink>
  </div>
</template>

<style scoped>
.page {
  max-width: 1020px;
  padding: 32px 40px;
}
.new {
  display: grid;
  grid-template-columns: 220px 260px auto;
  gap: 20px;
  align-items: end;
  margin: 20px 0 24px;
  justify-content: start;
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
</style>
