<script setup lang="ts">
import type { Schemas } from '../../shared/server'
import { dbm, megahertz, watts } from '../../shared/figures'
import PhotoStrip from '../../reviews/PhotoStrip.vue'
import StandingWords, { type Standing } from '../../shared/StandingWords.vue'

defineProps<{ sweeps: Schemas['EmissionsSweepView'][]; title?: string }>()
const emit = defineEmits<{ say: [id: string, standing: Standing, reason: string] }>()
</script>

<template>
  <div>
    <h3>{{ title ?? 'Sweeps of this band and level' }}</h3>
    <div v-for="s in sweeps" :key="s.id" class="sweep" :class="s.standing">
      <b>{{ s.name }}</b><template v-if="s.state">, {{ s.heard ? 'heard in its own receiver, ' : '' }}{{ s.state }}</template> <span v-if="s.standing !== 'in-force'">{{ s.standing }}: {{ s.standing_reason }}</span>
      <p class="soft">
        {{ megahertz(s.start_hz) }} to {{ megahertz(s.stop_hz) }}, <template v-if="s.look">{{ s.look.floor_dbm == null ? 'no floor noted' : `nothing else above ${dbm(s.look.floor_dbm)} on the screen` }}, {{ s.points }} {{ s.points === 1 ? 'peak' : 'peaks' }}{{ s.held_s ? `, held ${s.held_s} s` : '' }}{{ s.pre_amplifier ? `, pre-amplifier ${s.pre_amplifier}` : '' }},</template><template v-else>{{ s.points.toLocaleString() }} {{ s.points === 1 ? 'point' : 'points' }},</template> {{ s.rbw_hz > 0 ? `${megahertz(s.rbw_hz)} bandwidth` : 'bandwidth not told' }}, {{ s.detector ? `${s.detector} detector` : 'detector not told' }}, {{ s.hold ? `${s.hold} hold` : 'hold not told' }}, {{ s.modulated ? `${s.modulated} carrier` : 'bare or modulated not told' }}{{ s.normalised ? ', saved below its own carrier' : '' }}; {{ s.through.name
        }}<template v-if="s.applied_offset_db">; the screen added {{ s.applied_offset_db }} dB</template><template v-if="s.carrier_w != null">; it shows the carrier at {{ watts(s.carrier_w) }}</template>
      </p>
      <p v-if="s.void" class="danger">{{ s.void }}</p>
      <p class="soft">Read: {{ s.taken }}. <a :href="`/api/v1/measurements/${s.id}/file`">the file as it came</a></p>
      <PhotoStrip v-if="s.look" :about="s.id" empty="a picture of the screen:" />
      <StandingWords :key="s.standing" :about="s.id" :standing="s.standing" doubt @say="(standing, reason) => emit('say', s.id, standing, reason)" />
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
</style>
