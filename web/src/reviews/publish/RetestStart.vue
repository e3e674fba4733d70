<script setup lang="ts">
// Starts the review of another unit, or of the same after a change, with all that was typed for this one.
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { send, type Review } from '../../shared/server'
import { useReview } from '../review'

const book = useReview()
const router = useRouter()
const open = ref(false)
const same = ref(false)
const changes = ref('')
const trouble = ref('')

async function start() {
  trouble.value = ''
  const body = { same: same.value, changes: changes.value }
  const made = await send<Review>({ what: 'review', review: '', label: `re-test of ${book.review?.title}`, path: `/api/v1/reviews/${book.id}/retest`, json: (id) => ({ id, ...body }) })
  if (!made.ok) trouble.value = made.refusal.words
  else await router.push(`/reviews/${made.data.id}/radio`)
}
</script>

<template>
  <section class="retest">
    <button v-if="!open" type="button" class="option" name="retest" @click="open = true">Re-test this</button>
    <form v-else @submit.prevent="start">
      <p class="soft">A review of its own: same claims, run sheet, paths and rule books; the figures of this one show as ghosts.</p>
      <label><input v-model="same" type="radio" name="retest-same" :value="false" /> another unit of the model</label>
      <label><input v-model="same" type="radio" name="retest-same" :value="true" /> the same unit after a change</label>
      <label v-if="same">What was changed <ElInput v-model="changes" name="retest-changes" /></label>
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
      <ElButton native-type="submit" name="retest-start">Start the re-test</ElButton>
    </form>
  </section>
</template>

<style scoped>
.retest {
  font-size: 15px;
  border-top: 1px solid var(--hair);
  margin-top: 14px;
  padding-top: 12px;
}
label {
  display: block;
  margin: 4px 0;
}
input {
  accent-color: var(--ink);
}
</style>
