<script setup lang="ts">
// What the reviewer adds to an edition of their own: a recommendation, and photographs that are ticked.
import { computed } from 'vue'
import { api, ask, useAsked } from '../../shared/server'
import PhotoStrip from '../PhotoStrip.vue'
import { useReview, type Content } from '../review'

const book = useReview()
const kept = computed(() => book.typed!)
const adds = computed(() => kept.value.now.adds ?? {})
const asked = useAsked('photos', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/photos', { params: { path: { id } } })))
const photos = computed(() => asked.answer.value ?? [])

function say(field: 'recommendation' | 'ambient', text: string) {
  kept.value.change({ ...kept.value.now, adds: { ...adds.value, [field]: text } } as Content)
}
function tick(id: string, on: boolean) {
  const others = (adds.value.photos ?? []).filter((p) => p !== id)
  kept.value.change({ ...kept.value.now, adds: { ...adds.value, photos: on ? [...others, id] : others } } as Content)
}
</script>

<template>
  <div class="adds">
    <label>Your recommendation, in your own words; it changes no ruling<ElInput :model-value="adds.recommendation ?? ''" name="recommendation" type="textarea" :rows="3" maxlength="2000" @update:model-value="(v: string) => say('recommendation', v)" /></label>
    <label>Measured at, such as 21 °C indoors<ElInput :model-value="adds.ambient ?? ''" name="ambient" maxlength="200" @update:model-value="(v: string) => say('ambient', v)" /></label>
    <h3>Photographs in it</h3>
    <p v-if="!photos.length" class="soft">None yet: they are taken beside readings, claims and the unit.</p>
    <ul v-else>
      <li v-for="p in photos" :key="p.id"><label><input type="checkbox" :name="`photo-${p.id}`" :checked="(adds.photos ?? []).includes(p.id)" @change="tick(p.id, ($event.target as HTMLInputElement).checked)" /><img :src="`/api/v1/photos/${p.id}`" :alt="p.name" /> {{ p.about === 'unit' ? 'the unit' : p.name }}</label></li>
    </ul>
    <PhotoStrip about="unit" empty="Drop a photograph of the unit here, or" />
  </div>
</template>

<style scoped>
.adds {
  font-size: 15px;
  margin-bottom: 16px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
li label {
  display: flex;
  gap: 8px;
  align-items: center;
}
input[type='checkbox'] {
  accent-color: var(--ink);
}
img {
  height: 40px;
  width: auto;
}
</style>
