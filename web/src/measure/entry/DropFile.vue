<script setup lang="ts">
// A file dropped or chosen, read as text.
defineProps<{ what: string; name: string; accept: string }>()
const emit = defineEmits<{ read: [file: { name: string; content: string }] }>()
async function take(file?: File) {
  if (file) emit('read', { name: file.name.replaceAll('?', ''), content: await file.text() })
}
</script>

<template>
  <label class="choose" @dragover.prevent @drop.prevent.stop="take($event.dataTransfer?.files[0])">Drop {{ what }} here, or <span class="link">choose</span><input type="file" :name="name" :accept="accept" @change="take(($event.target as HTMLInputElement).files?.[0])" /></label>
</template>

<style scoped>
.choose {
  display: block;
  border: 1px dashed var(--soft);
  border-radius: 6px;
  padding: 10px 12px;
  margin-bottom: 10px;
}
.choose input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.choose:focus-within {
  outline: 2px solid var(--ink);
}
.link {
  text-decoration: underline;
}
</style>
