<script setup lang="ts">
// Words on a measurement: strike it, doubt it, take that back; each with a reason.
import { ref } from 'vue'

type Standing = 'in-force' | 'suspect' | 'struck'
const props = defineProps<{ standing: string; doubt?: boolean }>()
const emit = defineEmits<{ say: [standing: Standing, reason: string] }>()
const asking = ref<Standing | null>(null)
const reason = ref('')

const choices: [Standing, string][] =
  props.standing !== 'in-force' ? [['in-force', 'take that back']] : props.doubt ? [['struck', 'strike it'], ['suspect', 'doubt it']] : [['struck', 'strike it']]

function send() {
  if (!asking.value || !reason.value.trim()) return
  emit('say', asking.value, reason.value.trim())
  asking.value = null
  reason.value = ''
}
</script>

<template>
  <form v-if="asking" @submit.prevent="send" @keydown.esc="asking = null">
    <ElInput v-model="reason" placeholder="why?" aria-label="Reason" autofocus />
    <ElButton size="small" native-type="submit" :disabled="!reason.trim()">{{ choices.find(([s]) => s === asking)?.[1] }}</ElButton>
  </form>
  <p v-else class="words">
    <button v-for="[s, label] in choices" :key="s" type="button" class="link" @click="asking = s">{{ label }}</button>
  </p>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
}
.words {
  margin: 2px 0;
}
.words button {
  margin-right: 14px;
}
</style>
