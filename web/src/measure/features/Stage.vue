<script setup lang="ts">
// What the box says beside figures: yes or no, what is in it, what fits; with a photograph each.
import { computed } from 'vue'
import PhotoStrip from '../../reviews/PhotoStrip.vue'
import { useReview } from '../../reviews/review'
import { api, ask, useAsked, type Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { useEntry } from '../entry/useEntry'

type Found = Schemas['FeaturesFound']
const book = useReview()
const entry = useEntry<Found>('features', (text) => ({ text }), { whole: true })
// What is claimed and nobody answered yet.
const ruling = useAsked('features ruling', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/features/ruling', { params: { path: { id }, query: { band: '' } } })))
const open = computed(() => ruling.answer.value?.missing ?? [])
function answer(thing: string) {
  entry.text.value = `yes ${thing}`
  entry.line.value?.focus()
}
</script>

<template>
  <EntryScreen :entry="entry" placeholder="yes charges by USB" title="What was found" none="None yet. Answer a claim with yes, no or partly: no charges by USB; note what is there: in belt clip, missing charger, fits battery of the older model.">
    <template #whole><span class="big">{{ entry.shown.value?.thing ?? 'what the box says' }}</span></template>
    <template #how><small>{{ entry.shown.value ? (entry.shown.value.claimed ? 'claimed' : 'no claim speaks of it') : '' }}</small></template>
    <template #figure="{ shown }"><span class="answer">{{ shown?.answer ?? '–' }}</span></template>
    <template #beside="{ shown }"><span v-if="shown.verdict"><RulingShape :verdict="shown.verdict" :size="26" word /></span></template>
    <template #echo="{ shown }">{{ shown.thing }}: {{ shown.answer }}</template>
    <template #keys><b>yes</b> <b>no</b> <b>partly</b> of a claim; <b>in</b> <b>missing</b> <b>fits</b> of a thing </template>
    <template #aside>
      <h3>Claimed, not tried yet</h3>
      <p v-if="open.length === 0" class="soft">Nothing. Claims are typed on <RouterLink :to="`/reviews/${book.id}/radio`">Radio</RouterLink>: <span class="mono">says charges by USB</span>, <span class="mono">comes with belt clip</span>.</p>
      <p v-for="c in open" :key="c"><button type="button" class="claim" @click="answer(c)">{{ c }}</button></p>
      <p class="danger">Water, drops and heat are tried last, with the battery out where that can be: a wet or bent lithium cell burns.</p>
    </template>
    <template #row="{ of }"><RulingShape v-if="of.verdict" :verdict="of.verdict" :size="16" /></template>
    <template #under="{ of }"><PhotoStrip :about="of.id" empty="a photograph of it:" /></template>
  </EntryScreen>
</template>

<style scoped>
.big {
  font-size: 44px;
  line-height: 1.1;
}
.answer {
  letter-spacing: -0.01em;
}
.claim {
  all: unset;
  cursor: pointer;
  text-decoration: underline;
  font-size: 17px;
}
.claim:focus-visible {
  outline: 2px solid var(--ink);
}
</style>
