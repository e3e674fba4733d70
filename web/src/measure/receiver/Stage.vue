<script setup lang="ts">
// What a receiver does beside hearing: its meter against level, its squelch, its image and neighbours.
import { computed, ref } from 'vue'
import { useReview } from '../../reviews/review'
import { remember } from '../../shared/remember'
import type { Schemas } from '../../shared/server'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useEntry } from '../entry/useEntry'
import { difference, level, name, shownDifference } from './words'

type Measured = Schemas['ReceiverMeasured']
const how = remember(`generator ${useReview().id}`, { loss: '', within: '' })
const entry = useEntry<Measured>('receiver', (text) => ({ text, loss_db: toldNumber(how.value.loss), within_db: toldNumber(how.value.within) }), { receives: true, dial: 'receive' })
const field = ref<{ focus: () => void }>()
// The marks of the meter along their levels: what each stands for on one rail, where it came on the other.
const marks = computed(() => {
  const of = new Map<string, Measured>()
  for (const m of entry.here.value.filter((m) => m.what === 's-meter' && m.counts && m.standing === 'in-force')) of.set(m.mark, m)
  if (entry.live.value?.what === 's-meter') of.set(entry.live.value.mark, entry.live.value)
  return [...of.values()].sort((a, b) => a.usual_dbm! - b.usual_dbm!)
})
const ends = computed(() => {
  const all = marks.value.flatMap((m) => [m.level_dbm!, m.usual_dbm!])
  return [Math.min(...all) - 6, Math.max(...all) + 6] as const
})
const x = (dbm: number) => 60 + ((dbm - ends.value[0]) / (ends.value[1] - ends.value[0])) * 500
</script>

<template>
  <EntryScreen :entry="entry" placeholder="s9 -93" title="Of this receiver" none="None yet. Turn the generator up until the meter shows the mark, and type both: s9 -93, s9+20 -73. Or squelch -120 -123, where it opens and closes; image 62 and neighbour 12.5k 58 in dB, or the level of both." :keys="{ r: () => field?.focus() }">
    <template #how>
      <b>{{ entry.shown.value ? name(entry.shown.value) : 'receiver' }}</b>
      <small>{{ how.loss.trim() ? `${how.loss.trim()} dB taken off` : 'generator straight on it' }}</small>
    </template>
    <template #figure="{ shown }">
      <template v-if="shown?.what === 'squelch'">{{ level(shown.level_dbm!).split(' ')[0] }} <small>dBm</small></template>
      <template v-else>{{ shown?.difference_db != null ? shownDifference(shown).split(' ')[0] : '–' }} <small>dB</small></template>
    </template>
    <template #beside="{ shown }">
      <template v-if="shown.what === 's-meter'"><span>{{ shown.mark }} at {{ level(shown.level_dbm!) }}</span><span class="soft">it stands for {{ level(shown.usual_dbm!) }}<template v-if="shown.expanded_uncertainty_db != null">; ±{{ shown.expanded_uncertainty_db.toFixed(1) }} dB, k = 2</template></span></template>
      <template v-else-if="shown.what === 'squelch'"><span>opens</span><span v-if="shown.closes_dbm != null">closes at {{ level(shown.closes_dbm) }}, {{ difference(shown.difference_db!) }} between</span></template>
      <span v-else>by so much it hears the {{ shown.what }} less than its own channel</span>
    </template>
    <template #picture>
      <svg v-if="marks.length" viewBox="0 0 600 96" role="img" :aria-label="marks.map((m) => `${m.mark} at ${level(m.level_dbm!)}`).join(', ')">
        <line x1="60" x2="560" y1="28" y2="28" class="rail" /><line x1="60" x2="560" y1="70" y2="70" class="rail" />
        <text x="4" y="33">meant</text><text x="4" y="75">came</text>
        <g v-for="m in marks" :key="m.mark" :class="{ ink: m === entry.shown.value }">
          <line :x1="x(m.usual_dbm!)" :x2="x(m.level_dbm!)" y1="28" y2="70" class="tie" />
          <circle :cx="x(m.usual_dbm!)" cy="28" r="5" class="ring" /><circle :cx="x(m.level_dbm!)" cy="70" r="6" />
          <text :x="x(m.usual_dbm!)" y="16" text-anchor="middle">{{ m.mark }}</text><text :x="x(m.level_dbm!)" y="92" text-anchor="middle">{{ m.level_dbm!.toFixed(0).replace('-', '−') }}</text>
        </g>
      </svg>
    </template>
    <template #echo="{ shown }">{{ `${name(shown)}${shown.difference_db != null ? `, ${difference(shown.difference_db)}` : ''}` }}</template>
    <template #keys><span><kbd>r</kbd> the loss before it</span> </template>
    <template #aside>
      <label class="soft">Between generator and radio, dB<ElInput ref="field" v-model="how.loss" name="loss" inputmode="decimal" placeholder="none" @keyup.enter="entry.line.value?.focus()" /></label>
      <label class="soft">The generator’s level is within, dB<ElInput v-model="how.within" name="level-within" inputmode="decimal" placeholder="not told" @keyup.enter="entry.line.value?.focus()" /></label>
      <p class="soft">Image and neighbour: find the level at which it is just heard on its own channel, move the generator, and turn it up until it is heard as well. Type both, or the difference.</p>
      <p class="danger">Lock transmitting first: a key-up into a generator destroys it. The radio’s and the generator’s ratings come first.</p>
    </template>
    <template #row="{ of }"><b>{{ of.what === 'squelch' ? level(of.level_dbm!) : of.difference_db != null ? shownDifference(of) : 'void' }}</b> <span class="soft">{{ name(of) }}</span></template>
  </EntryScreen>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 640px;
}
.rail {
  stroke: var(--hair);
  stroke-width: 2;
}
.tie {
  stroke: var(--soft);
}
.ring {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
circle {
  fill: var(--soft);
}
.ink circle:not(.ring) {
  fill: var(--ink);
}
text {
  font-size: 14px;
  fill: var(--soft);
}
</style>
