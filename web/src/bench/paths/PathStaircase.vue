<script setup lang="ts">
// The staircase of a kept path, where a review is about to key into it. A cure
// that is taken makes a path of its own: the kept one may be in use elsewhere.
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { newKey, wordsOf } from '../../shared/server'
import { fine, megahertz, watts } from '../../shared/figures'
import { cured, useBench, type Cure, type Stairs } from '../bench'
import StairFindings from './StairFindings.vue'
import StairGauges from './StairGauges.vue'
import StairPicture from './StairPicture.vue'

const props = defineProps<{ pathId: string; stairs: Stairs | null; trouble: string; compact?: boolean; thin?: boolean }>()
const emit = defineEmits<{ taken: [string] }>()

const bench = useBench()
const refused = ref('')
const multiple = ref(1)

async function take(cure: Cure) {
  const kept = bench.bench?.paths.find((p) => p.id === props.pathId)
  if (!kept) return
  try {
    const made = await bench.writePath({ ...kept, id: newKey(), version: 0 }, { name: `${kept.name}, with ${cure.detail}`.slice(0, 200), parts: cured(kept.parts, cure) })
    emit('taken', made.id)
  } catch (e) {
    refused.value = wordsOf(e)
  }
}

// Keys 1 to 9 and 0 move it to the carrier's multiples, where it has the focus.
const box = ref<HTMLElement>()
useEventListener(box, 'keydown', (e: KeyboardEvent) => {
  if (/^[0-9]$/.test(e.key)) {
    multiple.value = Number(e.key) || 10
    e.stopPropagation()
  }
})
</script>

<template>
  <div ref="box" class="staircase" role="group" tabindex="0" :aria-label="stairs ? `Levels along ${stairs.name}` : 'Levels along the path'">
    <p v-if="trouble || refused" class="danger" role="alert">{{ trouble || refused }}</p>
    <template v-if="stairs">
      <header v-if="!compact && !thin">
        <h3>{{ stairs.name }}<span v-if="stairs.socket" class="soft">, from the socket “{{ stairs.socket }}”</span></h3>
        <span class="soft">keys <kbd>1</kbd> to <kbd>0</kbd>: multiples of the carrier; now {{ megahertz(stairs.multiples.frequencies_hz[multiple - 1]!) }}</span>
      </header>
      <div v-if="thin" class="thin">
        <div class="frame"><StairPicture :stairs="stairs" :multiple="multiple" compact titles :width="700" :height="158" /></div>
        <div class="ends"><slot /><StairGauges :stairs="stairs" :multiple="multiple" bare /></div>
      </div>
      <div v-else class="frame"><StairPicture :stairs="stairs" :multiple="multiple" :compact="compact" titles :width="compact ? 420 : 1000" /></div>
      <StairFindings :stairs="stairs" :take="compact ? '' : 'Take '" @cure="take" />
      <p v-if="thin" class="dial" data-dial><b>Dial in</b><span v-for="d in stairs.dial_in" :key="d.what"><span class="soft">{{ d.what }}</span> {{ d.value }}</span></p>
      <StairGauges v-else-if="!compact" :stairs="stairs" :multiple="multiple" />
      <p v-else-if="stairs.dc" class="small">
        {{ stairs.supply_name }}: <template v-for="(r, i) in stairs.dc.rows" :key="r.level">{{ i ? ', ' : '' }}{{ r.level }} {{ r.radio_v == null ? 'cannot be carried' : `${r.radio_v.toFixed(1)} V` }} at the radio</template>
      </p>
      <p v-if="!thin || stairs.typical.length" class="soft small">
        Reckoned with {{ watts(stairs.source_w) }}, {{ stairs.source_why }}; loss to the instrument
        {{ stairs.loss_db[multiple - 1] == null ? 'not known here' : fine(stairs.loss_db[multiple - 1]!) }} at
        {{ megahertz(stairs.multiples.frequencies_hz[multiple - 1]!) }}<template v-for="r in stairs.runs" :key="r.first">; {{ r.applies ? `measured ${r.on}` : `measured ${r.on} elsewhere, printed values here` }}</template>.<template v-if="stairs.typical.length"> Typical values stand behind {{ stairs.typical.join(', ') }}.</template>
      </p>
    </template>
  </div>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 8px;
  font-size: 14px;
}
h3 .soft {
  font-weight: 400;
}
.frame {
  margin: 8px 0;
  border-top: 1px solid var(--hair);
  border-bottom: 1px solid var(--hair);
}
.frame :deep(svg) {
  width: 100%;
}
.thin {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(260px, 1fr);
  gap: 24px;
  align-items: start;
}
.dial {
  display: flex;
  flex-wrap: wrap;
  gap: 1px 18px;
  margin: 4px 0;
  font-size: 14px;
}
@media (max-width: 820px) {
  .thin {
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
  }
}
.small {
  font-size: 14px;
}
</style>
