<script setup lang="ts">
// Bringing a transmitter to a power: which way to turn, large enough for the corner of an eye.
import { db, watts } from '../../shared/figures'
import type { Reading } from '../../shared/server'

defineProps<{ target: number; atMost: boolean; reading: Reading | null; inUse: boolean; asked: boolean }>()
defineEmits<{ asked: []; off: [] }>()
const words = { down: 'down', more: 'more', stop: 'stop' } as Record<string, string>
</script>

<template>
  <div class="adjust" aria-live="polite">
    <template v-if="inUse && !asked">
      <b>An antenna is on this path.</b>
      <span>Listen; ask whether the frequency is in use; identify. Transmit only where your licence lets you.</span>
      <ElButton size="small" name="asked" @click="$emit('asked')">Listened, asked, identified</ElButton>
    </template>
    <template v-else>
      <svg viewBox="0 0 40 40" class="arrow" :class="reading?.toward ?? 'none'" role="img" :aria-label="reading?.toward ?? 'no reading yet'">
        <path v-if="reading?.toward === 'down'" d="M20 36L6 18h9V4h10v14h9z" />
        <path v-else-if="reading?.toward === 'more'" d="M20 4l14 18h-9v14H15V22H6z" />
        <path v-else-if="reading?.toward === 'stop'" d="M7 7h26v26H7z" />
        <path v-else d="M6 19h28v2H6z" />
      </svg>
      <b data-toward>{{ words[reading?.toward ?? ''] ?? 'type what it reads' }}</b>
      <span>{{ atMost ? 'to no more than' : 'to' }} {{ watts(target) }}<template v-if="reading?.target_db != null">, now {{ db(reading.target_db) }}</template></span>
      <span v-if="reading?.reached" class="soft">{{ atMost ? 'down to the class' : 'there' }}: <b>{{ reading.reached }}</b></span>
    </template>
    <button type="button" class="link" @click="$emit('off')">leave</button>
  </div>
</template>

<style scoped>
.adjust {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 18px;
  border: 1px solid var(--ink);
  padding: 4px 14px;
  font-size: 22px;
}
.arrow {
  width: 44px;
  height: 44px;
  fill: var(--ink);
}
b[data-toward] {
  font-size: 30px;
}
</style>
