<script setup lang="ts">
// What a band and level came to on the unit before, where one was measured: its power, and its worst product.
import { computed } from 'vue'
import { room, watts } from '../shared/figures'
import { api, ask, useAsked } from '../shared/server'
import { useReview } from './review'

const props = defineProps<{ box: string; power?: boolean }>()
const book = useReview()
const asked = useAsked('ghosts', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/ghosts', { params: { path: { id } } })))
const said = computed(() => {
  const g = asked.answer.value?.find((x) => x.box === props.box)
  if (!g) return ''
  const parts = [props.power && g.w > 0 ? watts(g.w) : '', g.room_db == null ? '' : `${g.product} ${room({ seen: g.seen, room_db: g.room_db })}`].filter(Boolean)
  return parts.length ? `before, ${g.title}: ${parts.join('; ')}` : ''
})
</script>

<template>
  <p v-if="said" class="soft" data-ghost>{{ said }}</p>
</template>
