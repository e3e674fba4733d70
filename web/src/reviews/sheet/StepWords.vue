<script setup lang="ts">
// Which step of the run sheet one is at, and the ways on.
import type { useSteps } from './steps'

const props = defineProps<{ steps: ReturnType<typeof useSteps> }>()
defineEmits<{ move: [by: number] }>()
const next = () => props.steps.beside(1)
</script>

<template>
  <b data-step>step {{ steps.now.value!.n }}</b> of {{ steps.going.value.length }}
  <button v-if="next()" type="button" class="link" name="next-step" @click="$emit('move', 1)">next: {{ next()!.box }}{{ next()!.kind === steps.now.value!.kind ? '' : `, ${next()!.kind}` }}</button>
  <button type="button" class="link" @click="steps.leave()">leave the sheet</button>
</template>
