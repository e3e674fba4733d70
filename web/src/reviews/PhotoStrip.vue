<script setup lang="ts">
// Photographs of what was read or claimed: dropped, pasted or chosen; each belongs to what it
// is about, a measurement by its id or a claim by its text.
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, ask, outbox, send, useAsked } from '../shared/server'
import { useReview } from './review'

const props = defineProps<{ about: string; empty: string; pasted?: boolean }>()
const book = useReview()
const asked = useAsked('photos', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/photos', { params: { path: { id } } })))
const mine = computed(() => asked.answer.value?.filter((p) => p.about === props.about) ?? [])
const waiting = computed(() => outbox.facts.filter((f) => f.what === 'photo' && f.review === book.id).length)
const trouble = ref('')

async function take(file: File) {
  trouble.value = ''
  if (!props.about) trouble.value = 'Log a reading first: the photograph is kept with it.'
  else if (!/^image\/(png|jpeg)$/.test(file.type)) trouble.value = `“${file.name}” is no PNG or JPEG.`
  else if (file.size > 10 * 1024 * 1024) trouble.value = `“${file.name}” is over 10 MB.`
  if (trouble.value) return
  const got = await send({ what: 'photo', review: book.id, label: file.name, path: (key) => `/api/v1/reviews/${book.id}/photos?${new URLSearchParams({ key, about: props.about, file: file.name })}`, file })
  if (!got.ok) trouble.value = got.refusal.words
}
function drop(e: DragEvent) {
  for (const f of e.dataTransfer?.files ?? []) void take(f)
}
useEventListener(window, 'paste', (e: ClipboardEvent) => {
  if (!props.pasted) return
  const pictures = [...(e.clipboardData?.files ?? [])].filter((f) => f.type.startsWith('image/'))
  if (pictures.length === 0) return
  e.preventDefault()
  for (const f of pictures) void take(f)
})
</script>

<template>
  <div class="photos" @dragover.prevent @drop.prevent="drop">
    <a v-for="p in mine" :key="p.id" :href="`/api/v1/photos/${p.id}`" target="_blank" :title="p.name"><img :src="`/api/v1/photos/${p.id}`" :alt="`photograph: ${p.name}`" /></a>
    <label class="soft">{{ mine.length ? 'another' : empty }} <span class="link">choose</span><input type="file" name="photo" accept="image/png,image/jpeg" @change="($event.target as HTMLInputElement).files?.[0] && take(($event.target as HTMLInputElement).files![0]!)" /></label>
    <span v-if="waiting" class="soft">{{ waiting }} on the way</span>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin-top: 6px;
  font-size: 14px;
}
img {
  height: 54px;
  width: auto;
  display: block;
}
input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.link {
  text-decoration: underline;
  cursor: pointer;
}
label:focus-within .link {
  outline: 2px solid var(--ink);
}
p {
  margin: 0;
  width: 100%;
}
</style>
