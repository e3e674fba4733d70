<script setup lang="ts">
// The first afternoon: each step said where it is done, found out from what there is, so that it can be
// left and taken up at any time.
import { computed, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useReview } from '../reviews/review'
import { remember } from '../shared/remember'
import { api, ask, useAsked } from '../shared/server'

const props = defineProps<{ review: string }>()
const route = useRoute()
const book = useReview()
const left = remember(`first afternoon left ${props.review}`, false)
const been = remember<string[]>(`first afternoon ${props.review}`, [])
const stage = computed(() => route.path.split('/')[3] ?? '')
watch(stage, (s) => { if (!been.value.includes(s)) been.value = [...been.value, s] }, { immediate: true })
const power = useAsked('power of the afternoon', () => [props.review] as const, (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/power', { params: { path: { id }, query: {} } })))
const sweeps = useAsked('looks of the afternoon', () => [props.review] as const, (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/emissions', { params: { path: { id }, query: {} } })))
const of = (level: string) => (power.answer.value ?? []).filter((r) => r.level === level && r.counts && r.standing !== 'struck').length
const total = computed(() => (power.answer.value ?? []).filter((r) => r.standing !== 'struck').length)
const looked = computed(() => (sweeps.answer.value ?? []).length)
const seen = (s: string) => been.value.includes(s)

interface Step { at: string; done: boolean; says: string; keys?: string[] }
const steps = computed<Step[]>(() => [
  { at: 'radio', done: seen('power') || total.value > 0, says: 'What the leaflet claims is typed as one says it: 2m FM 5/1 stands here already, and became a picture. Go on to Power.', keys: ['Alt 3'] },
  { at: 'power', done: of('High') > 0, says: 'First key-up, High. Go through “before keying” and press c. On the strip above, see that the display says HIGH: a radio left on low is the commonest mistake of all. Press the key, type what the meter shows with what the display shows, such as 4.8 h, Enter; let the key go.', keys: ['c', 'Alt K', 'Enter', 'Alt K'] },
  { at: 'power', done: of('Low') > 0, says: 'Second key-up, Low: go to its box, turn the strip’s knob to LOW, key, type, Enter.', keys: ['↓', 'Alt K', 'Enter', 'Alt K'] },
  { at: 'power', done: total.value > 2, says: 'Third key-up, High once more: a figure read twice tells how steady it is. Back to its box, knob to HIGH, key, type, Enter.', keys: ['↑', 'Alt K', 'Enter', 'Alt K'] },
  { at: 'emissions', done: looked.value > 0, says: 'One look at what it sends beside its carrier. On Emissions connect the radio to “pads into the analyzer” on the strip, press c, key, and let the analyzer sweep; Enter takes the trace when it has settled. Let the key go.', keys: ['Alt 4', 'c', 'Alt K', 'Esc', 'i', 'Enter'] },
  { at: 'ruling', done: looked.value > 0 && seen('ruling'), says: 'What it comes to: the board, a shape for each, and beside it what each rests on.', keys: ['Alt 6'] },
  { at: 'ruling', done: seen('edition'), says: 'What readers get of it. A practice radio is never published: this is how its edition would look.' },
])
const now = computed(() => steps.value.findIndex((s) => !s.done))
const step = computed(() => steps.value[now.value])
const ready = computed(() => power.answer.value !== null && sweeps.answer.value !== null)
</script>

<template>
  <section v-if="ready && left" class="guide left"><button type="button" class="link" name="take-up" @click="left = false">Take the first afternoon up again</button></section>
  <section v-else-if="ready" class="guide" aria-live="polite" data-guide>
    <p v-if="step">
      <b>First afternoon, {{ now + 1 }} of {{ steps.length }}.</b> {{ step.says }}
      <span v-for="(k, i) in step.keys" :key="i"><kbd>{{ k }}</kbd> </span>
      <a v-if="now === steps.length - 1" :href="`/api/v1/reviews/${review}/preview`" target="_blank" name="see-edition" @click="been = [...been, 'edition']">Open the edition</a>
      <RouterLink v-else-if="stage !== step.at" :to="`/reviews/${review}/${step.at}`">go there</RouterLink>
    </p>
    <p v-else><b>That was it:</b> {{ book.review?.title }} is reviewed. <RouterLink :to="`/reviews/${review}/practice`">Bench and score</RouterLink> holds it against the truth. Your own: your instruments on the <RouterLink to="/bench/paths">Bench</RouterLink>, a line each, then <RouterLink to="/reviews">start a review</RouterLink>.</p>
    <button type="button" class="link" name="leave-guide" @click="left = true">leave it</button>
  </section>
</template>

<style scoped>
.guide {
  display: flex;
  gap: 18px;
  justify-content: space-between;
  align-items: baseline;
  border-left: 4px solid var(--ink);
  padding: 2px 14px;
  margin-bottom: 12px;
  background: var(--sheet);
  font-size: 16px;
}
.left {
  border-color: var(--hair);
}
p {
  margin: 2px 0;
}
.guide > button {
  white-space: nowrap;
  font-size: 14px;
}
</style>
