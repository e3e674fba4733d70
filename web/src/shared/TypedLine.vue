<script setup lang="ts">
// A field whose text stays as it is typed until it is left or Enter is pressed;
// then it is handed on, and shows again what became of it.
import { ref, watch } from 'vue'

const props = defineProps<{ value: string; name: string; placeholder?: string }>()
const emit = defineEmits<{ commit: [string] }>()
const text = ref(props.value)
watch(() => props.value, (v) => (text.value = v))
function commit() {
  emit('commit', text.value)
}
</script>

<template>
  <ElInput v-model="text" :name="name" inputmode="decimal" :placeholder="placeholder" @change="commit" />
</template>
