<script setup lang="ts">
// A ruling is told by shape, word and colour together, never by colour alone.
import { computed } from 'vue'

const props = withDefaults(defineProps<{ verdict: string; size?: number; word?: boolean; ghost?: boolean }>(), { size: 22, word: false, ghost: false })

const words: Record<string, string> = {
  pass: 'passes',
  fail: 'fails',
  inconclusive: 'too close to call',
  'not-covered': 'not covered',
  'no-limit': 'no limit',
  void: 'void',
  'passes-so-far': 'passes so far',
  'not-examined': 'not examined',
  'not-governed': 'not governed by this book',
  'no-claim': 'nothing claimed',
}
const spoken = computed(() => words[props.verdict] ?? props.verdict)
</script>

<template>
  <span class="ruling" :class="[verdict, { ghost }]" :data-verdict="verdict">
    <svg :width="size" :height="size" viewBox="0 0 24 24" role="img" :aria-label="word ? undefined : spoken" :aria-hidden="word || undefined">
      <template v-if="verdict === 'pass'"><circle class="body" cx="12" cy="12" r="11" /><path d="M6.5 12.5l4 4 7-8" /></template>
      <template v-else-if="verdict === 'fail'"><rect class="body" x="1" y="1" width="22" height="22" rx="2" /><path d="M7 7l10 10M17 7L7 17" /></template>
      <template v-else-if="verdict === 'inconclusive'"><path class="body" d="M12 .8L23.2 12 12 23.2.8 12z" /><path d="M6.5 13c1.8-3.6 3.7-3.6 5.5 0s3.7 3.6 5.5 0" /></template>
      <circle v-else-if="verdict === 'not-covered'" class="ring" cx="12" cy="12" r="10" />
      <path v-else-if="verdict === 'no-limit'" class="dash" d="M4 12h16" />
      <template v-else-if="verdict === 'passes-so-far'"><circle class="round" cx="12" cy="12" r="10" /><path class="half" d="M12 2a10 10 0 0 0 0 20z" /><path class="round" d="M15.5 9v6" /></template>
      <path v-else-if="verdict === 'not-examined'" class="dash thin" d="M5 5h3M16 5h3M5 19h3M16 19h3M5 5v3M19 5v3M5 19v-3M19 19v-3" />
      <path v-else-if="verdict === 'not-governed'" class="dash thin" d="M4 9h16M4 15h16M17 4L7 20" />
      <circle v-else-if="verdict === 'no-claim'" class="dot" cx="12" cy="12" r="3" />
      <template v-else><path class="body" d="M12 .8l9.7 5.6v11.2L12 23.2 2.3 17.6V6.4z" /><path d="M6.5 12h11" /></template>
    </svg>
    <span v-if="word" class="word">{{ spoken }}</span>
  </span>
</template>

<style scoped>
.ruling {
  display: inline-flex;
  align-items: center;
  gap: 0.45em;
  white-space: nowrap;
}
svg {
  flex: none;
  fill: none;
  stroke: var(--sheet);
  stroke-width: 2.4;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.body {
  stroke: none;
}
.pass .body {
  fill: var(--leaf);
}
.fail .body {
  fill: var(--rust);
}
.inconclusive .body {
  fill: var(--amber);
}
.void .body {
  fill: var(--slate);
}
.ring {
  stroke: var(--soft);
  stroke-width: 2;
  stroke-dasharray: 4 3.5;
}
.dash {
  stroke: var(--soft);
}
.thin {
  stroke-width: 2;
}
.dot {
  fill: var(--soft);
  stroke: none;
}
.round {
  stroke: var(--leaf);
  stroke-width: 2;
}
.half {
  fill: var(--leaf);
  stroke: none;
}
.ghost {
  opacity: 0.35;
}
</style>
