<script lang="ts">
export type Standing = 'in-force' | 'suspect' | 'struck' | 'explained'
</script>

<script setup lang="ts">
// Words on a measurement: strike it, doubt it, say what explains a difference, take
// that back; each with a reason.
import { computed, nextTick, ref } from 'vue'
import { useLine } from './lines'

const props = defineProps<{ about: string; standing: string; doubt?: boolean; contradicts?: boolean }>()
const emit = defineEmits<{ say: [standing: Standing, reason: string] }>()
const asking = ref<Standing | null>(null)
const reason = useLine('', 'why', () => props.about) // until it is said
const form = ref<HTMLFormElement>()

function begin(standing: Standing) {
  asking.value = standing
  void nextTick(() => form.value?.querySelector('input')?.focus())
}

const choices = computed<[Standing, string][]>(() => {
  if (props.standing !== 'in-force') return [['in-force', 'take that back']]
  const out: [Standing, string][] = [['struck', 'strike it']]
  if (props.doubt) out.push(['suspect', 'doubt it'])
  if (props.contradicts) out.push(['explained', 'explain the difference'])
  return out
})

function send() {
  if (!asking.value || !reason.value.trim()) return
  emit('say', asking.value, reason.value.trim())
  asking.value = null
  reason.value = ''
}
</script>

<template>
  <form v-if="asking" ref="form" @submit.prevent="send" @keydown.esc.prevent="asking = null">
    <ElInput v-model="reason" placeholder="why?" aria-label="Reason" />
    <ElButton size="small" native-type="submit" :disabled="!reason.trim()">{{ choices.find(([s]) => s === asking)?.[1] }}</ElButton>
  </form>
  <p v-else class="words">
    <button v-for="[s, label] in choices" :key="s" type="button" class="link" @click="begin(s)">{{ label }}</button>
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
