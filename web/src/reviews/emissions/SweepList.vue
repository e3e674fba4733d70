<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../shared/api/client'
import { megahertz } from '../../shared/figures'

defineProps<{ sweeps: Schemas['DossierSweepView'][] }>()
const emit = defineEmits<{ say: [id: string, standing: 'in-force' | 'suspect' | 'struck', reason: string] }>()
const asking = ref<{ id: string; standing: 'in-force' | 'suspect' | 'struck' } | null>(null)
const reason = ref('')

function send() {
  if (!asking.value || !reason.value.trim()) return
  emit('say', asking.value.id, asking.value.standing, reason.value.trim())
  asking.value = null
  reason.value = ''
}
</script>

<template>
  <div>
    <h3>Sweeps of this box</h3>
    <div v-for="s in sweeps" :key="s.id" class="sweep" :class="s.standing">
      <b>{{ s.name }}</b> <span v-if="s.standing !== 'in-force'">{{ s.standing }}: {{ s.standing_reason }}</span>
      <p class="soft">
        {{ megahertz(s.start_hz) }} to {{ megahertz(s.stop_hz) }}, {{ s.points.toLocaleString('en-GB') }} points, {{ s.rbw_hz > 0 ? megahertz(s.rbw_hz) : 'unknown' }} bandwidth, {{ s.detector }}, {{ s.hold }}; {{ s.through.name
        }}<template v-if="s.through.applied_offset_db">; the instrument added {{ s.through.applied_offset_db }} dB</template>
      </p>
      <p class="soft">Read: {{ s.taken }}. <a :href="`/api/v1/sweeps/${s.id}/original`">the file as it came</a></p>
      <form v-if="asking?.id === s.id" @submit.prevent="send">
        <ElInput v-model="reason" :placeholder="`why ${asking.standing}?`" aria-label="Reason" autofocus />
        <ElButton size="small" native-type="submit" :disabled="!reason.trim()">{{ asking.standing }}</ElButton>
      </form>
      <p v-else class="words">
        <button v-if="s.standing === 'in-force'" type="button" @click="asking = { id: s.id, standing: 'struck' }">strike it</button>
        <button v-if="s.standing === 'in-force'" type="button" @click="asking = { id: s.id, standing: 'suspect' }">doubt it</button>
        <button v-if="s.standing !== 'in-force'" type="button" @click="asking = { id: s.id, standing: 'in-force' }">take that back</button>
      </p>
    </div>
  </div>
</template>

<style scoped>
.sweep {
  border-top: 1px solid var(--hair);
  padding: 6px 0;
  font-size: 15px;
}
.sweep p {
  font-size: 14px;
  margin: 2px 0;
}
.struck b {
  text-decoration: line-through;
}
.suspect b {
  text-decoration: underline wavy;
  text-underline-offset: 4px;
}
form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
}
.words button {
  all: unset;
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 3px;
  margin-right: 14px;
}
.words button:focus-visible {
  outline: 2px solid var(--ink);
}
</style>
