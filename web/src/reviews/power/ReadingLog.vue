<script setup lang="ts">
import type { Reading } from '../../shared/api/client'
import { watts } from '../../shared/figures'
import StandingWords from '../../shared/StandingWords.vue'

defineProps<{ readings: Reading[] }>()
const emit = defineEmits<{ say: [id: string, standing: 'in-force' | 'suspect' | 'struck', reason: string] }>()
</script>

<template>
  <div class="log">
    <h3>Readings of this box</h3>
    <p v-if="readings.length === 0" class="soft">None yet. Type what the meter shows; several at once are averaged.</p>
    <ol reversed>
      <li v-for="r in [...readings].reverse()" :key="r.id" :class="{ out: !r.counts }">
        <b>{{ watts(r.result?.at_connector_w) }}</b> <span class="mono">{{ r.text }}</span>
        <p class="soft">{{ r.through.name }}<template v-if="!r.counts">; {{ r.why_not }}</template></p>
        <StandingWords :key="r.standing" :standing="r.standing" @say="(standing, reason) => emit('say', r.id, standing, reason)" />
      </li>
    </ol>
  </div>
</template>

<style scoped>
.log {
  border-top: 1px solid var(--hair);
  margin-top: 12px;
  padding-top: 8px;
  max-height: 320px;
  overflow: auto;
}
ol {
  padding-left: 22px;
  margin: 4px 0;
}
p {
  margin: 0;
  font-size: 14px;
}
.mono {
  font-size: 13px;
}
.out b,
.out .mono {
  text-decoration: line-through;
  color: var(--soft);
}
</style>
