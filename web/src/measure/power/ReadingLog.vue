<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Reading, Waiting } from '../../shared/server'
import { dial, megahertz, percent, watts } from '../../shared/figures'
import StandingWords, { type Standing } from '../../shared/StandingWords.vue'

const props = defineProps<{ readings: Reading[]; waiting: Waiting[]; more: boolean}>()
/** A channel by its name, with its frequency in full. */
const channel = (r: Reading) => `${r.channel ? `${r.channel}, ` : ''}${dial(r.frequency_hz)} MHz`
const emit = defineEmits<{ say: [id: string, standing: Standing, reason: string]; earlier: [] }>()
// A long list is shown from its end, a piece at a time.
const piece = 60
const shown = ref(piece)
const last = computed(() => [...props.readings].reverse().slice(0, shown.value))
function earlier() {
  if (shown.value >= props.readings.length) emit('earlier')
  shown.value += piece
}
</script>

<template>
  <div class="log">
    <h3>Readings of this band and level</h3>
    <p v-for="w in waiting" :key="w.id" class="soft" data-waiting><span class="mono">{{ w.label }}</span> {{ w.state === 'aside' ? 'not taken' : 'on its way' }}</p>
    <p v-if="readings.length === 0" class="soft">None yet. Type what the meter shows; several at once are averaged.</p>
    <ol reversed :start="readings.length">
      <li v-for="r in last" :key="r.id" :class="{ out: !r.counts }">
        <b>{{ r.result ? watts(r.result.at_connector_w) : r.peak ? `${watts(r.peak.at_connector_w)} peak` : 'void' }}</b> <span v-if="r.against_claim" class="soft">{{ percent(r.against_claim.percent) }}</span><span v-else-if="r.in_use_percent != null" class="soft">{{ percent(r.in_use_percent) }} in use</span> <span class="mono">{{ r.text }}</span>
        <p class="soft">{{ channel(r) }}, {{ r.through.name }}<template v-if="r.by?.length">; read by {{ r.by[0]!.name }} itself</template><template v-if="r.outside">; {{ megahertz(r.frequency_hz) }}, outside the band claimed</template><template v-if="!r.counts">; {{ r.why_not }}</template></p>
        <p v-if="r.standing === 'explained'" class="soft">explained: {{ r.standing_reason }}</p>
        <StandingWords :key="r.standing" :about="r.id" :standing="r.standing" :contradicts="r.doubts.some((d) => d.code === 'contradicts')" @say="(standing, reason) => emit('say', r.id, standing, reason)" />
      </li>
    </ol>
    <button v-if="shown < readings.length || more" type="button" class="link" name="earlier" @click="earlier">earlier ones</button>
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
