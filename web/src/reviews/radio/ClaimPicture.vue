<script setup lang="ts">
// The claims at once: bands down, a bar per level, its length the claimed power.
import { computed } from 'vue'
import type { Cell } from '../../shared/server'
import { claimed, inMode, megahertz } from '../../shared/figures'

const props = defineProps<{ cells: Cell[] }>()
const bands = computed(() => {
  const out = new Map<string, Cell[]>()
  for (const c of props.cells) out.set(c.band.name, [...(out.get(c.band.name) ?? []), c])
  return [...out.entries()]
})
const most = computed(() => Math.max(1, ...props.cells.map((c) => c.claimed_w)))
</script>

<template>
  <figure v-if="cells.length" aria-label="Claimed power per band and level">
    <div v-for="[name, levels] in bands" :key="name" class="band">
      <div class="name">
        <b>{{ name }}</b><br /><span class="soft">{{ megahertz(levels[0]!.band.usual_hz) }}</span>
      </div>
      <div>
        <div v-for="c in levels" :key="c.level + c.mode" class="row">
          <span>{{ c.level }}<span class="soft">{{ inMode(c.mode) }}</span></span>
          <i :class="{ none: !c.claimed_w }" :style="{ width: `${Math.max(1.5, (c.claimed_w / most) * 100)}%` }" />
          <b>{{ claimed(c) }}</b>
        </div>
      </div>
    </div>
  </figure>
  <p v-else class="soft none">Nothing claimed yet. Where nothing is claimed, type the band alone, <span class="mono">2m</span>, or <span class="mono">2m ?/?</span> for two levels: figures then stand alone.</p>
</template>

<style scoped>
figure {
  margin: 14px 0 0;
  border-top: 1px solid var(--hair);
}
.band {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 12px;
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
}
.name b {
  font: 600 22px/1.1 Fraunces, serif;
}
.name .soft {
  font-size: 14px;
}
.row {
  display: grid;
  grid-template-columns: 76px 1fr 84px;
  align-items: center;
  gap: 10px;
}
.row i {
  height: 10px;
  background: var(--ink);
}
.row i.none {
  background: none;
  border: 1px dashed var(--soft);
}
p.none {
  margin-top: 20px;
}
</style>
