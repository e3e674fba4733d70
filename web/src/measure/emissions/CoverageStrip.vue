<script setup lang="ts">
// How far was looked, over all that a full examination asks for; what was not
// examined is hatched.
import type { Schemas } from '../../shared/server'
import { megahertz } from '../../shared/figures'

const props = defineProps<{ coverage: Schemas['JudgeCoverage']; carrier: number; from: number; to: number }>()
const place = ([a, b]: number[]) => {
  const span = props.to - props.from
  return { left: `${(((a ?? 0) - props.from) / span) * 100}%`, width: `${(Math.max((b ?? 0) - (a ?? 0), span / 800) / span) * 100}%` }
}
</script>

<template>
  <div class="coverage">
    <div class="strip" role="img" :aria-label="`Examined ${coverage.examined.map((s) => s.map((f) => megahertz(f ?? 0)).join(' to ')).join(', ') || 'nothing'}`">
      <i v-for="(s, i) in coverage.examined" :key="'e' + i" class="seen" :style="place(s)" />
      <i v-for="(s, i) in coverage.blind" :key="'b' + i" class="blind" :style="place(s)" />
    </div>
    <span class="ends soft"><i>{{ megahertz(from) }}</i><i v-if="coverage.search_to_hz">what a full examination asks for</i><i>{{ megahertz(to) }}</i></span>
    <span class="soft">
      examined {{ coverage.from_hz == null ? 'nothing' : `${megahertz(coverage.from_hz)} to ${megahertz(coverage.to_hz ?? 0)}` }}<template v-if="coverage.blind.length">; blind where hatched</template>;
      {{ coverage.complete ? 'a full examination' : 'not a full examination' }}; nothing said within {{ megahertz(coverage.near_carrier_hz) }} of the carrier
    </span>
  </div>
</template>

<style scoped>
.ends {
  display: flex;
  justify-content: space-between;
  font-size: 13px;
}
.ends i {
  font-style: normal;
}
.coverage {
  padding: 0 30px 0 70px;
  font-size: 14px;
}
.strip {
  position: relative;
  height: 12px;
  background: repeating-linear-gradient(135deg, var(--soft) 0 1px, transparent 1px 6px);
}
.strip i {
  position: absolute;
  top: 0;
  bottom: 0;
}
.seen {
  background: color-mix(in srgb, var(--ink) 30%, var(--sheet));
}
.blind {
  background: repeating-linear-gradient(135deg, var(--ink) 0 2px, var(--sheet) 2px 5px);
}
</style>
