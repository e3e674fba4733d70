<script setup lang="ts">
// Which owned pads, in which order, suit an analyzer and a power: a ladder a
// choice, with the room to damage growing left and what can be seen growing right.
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, newKey, useAsked, wordsOf, type Schemas } from '../../shared/server'
import { db, fine } from '../../shared/figures'
import { useBench } from '../bench'
import KeyedStrip from '../KeyedStrip.vue'

const bench = useBench()
const router = useRouter()
const analyzers = computed(() => bench.owned.filter((k) => k.kind === 'analyzer'))
const analyzer = ref(analyzers.value[0]?.id ?? '')
const input = ref(bench.byId.get(analyzer.value)?.first_setting ?? '')
const before = ref('')
const between = computed(() => bench.owned.filter((k) => k.on_path && ['cable', 'adapter'].includes(k.kind)))
const refused = ref('')
watch(analyzer, (id) => (input.value = bench.byId.get(id)?.first_setting ?? ''))
const asked = useAsked(
  'pads',
  () => (analyzer.value && bench.asked ? [{ analyzer: { kit_id: analyzer.value, setting: input.value }, before: before.value ? [{ kit_id: before.value, setting: '' }] : [], ...bench.asked }] : null),
  (body: Schemas['PadsAskedBody']) => ask(api.POST('/api/v1/pad-advice', { body })),
)
const found = computed(() => asked.answer.value?.choices ?? [])
const wanted = computed(() => asked.answer.value?.asked)
const trouble = computed(() => refused.value || asked.trouble.value)

async function draw(c: Schemas['PadChoice']) {
  const name = `${c.names.length ? c.names.join(' and ') : 'nothing'} into ${bench.byId.get(analyzer.value)?.name}`
  try {
    const p = await bench.writePath({ id: newKey(), version: 0, name, socket: 'antenna', parts: c.parts, supply: null as never, applied_offset_db: 0, purpose: 'emissions', serves: [], in_use: false, scales: [], retired_at: null as never })
    void router.push(`/bench/paths/${p.id}`)
  } catch (e) {
    refused.value = wordsOf(e)
  }
}

const W = 600
const middle = 230
const perDB = 6
// Either end grows on its own side, also where it is wanting: then in rust.
const bar = (v: number | null) => Math.min(24, Math.abs(v ?? 0)) * perDB
</script>

<template>
  <div>
    <KeyedStrip />
    <div v-if="analyzers.length" class="line">
      <label>into <select v-model="analyzer" name="analyzer"><option v-for="k in analyzers" :key="k.id" :value="k.id">{{ k.name }}</option></select></label>
      <label v-if="bench.byId.get(analyzer)?.settings.length">input <select v-model="input" name="input"><option v-for="s in bench.byId.get(analyzer)?.settings" :key="s">{{ s }}</option></select></label>
      <label>through <select v-model="before" name="before"><option value="">nothing else</option><option v-for="k in between" :key="k.id" :value="k.id">{{ k.name }}</option></select></label>
    </div>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <p v-if="analyzers.length === 0" class="soft">No analyzer is written down yet: <RouterLink to="/bench/kit">put yours among the kit</RouterLink>, and your pads, and this says which of them to use.</p>
    <div v-if="found.length" class="heads soft"><span>room before anything is damaged</span><span>lowest visible, under the limit</span></div>
    <article v-for="(c, i) in found" :key="c.names.join()" :class="{ best: i === 0 && c.fits }">
      <div class="what">
        <b>{{ c.names.length ? c.names.join(', then ') : 'no pad at all' }}</b>
        <span class="soft">{{ c.total_db == null ? 'loss not known' : fine(c.total_db) }}{{ i === 0 ? (c.fits ? ', the best of what you own' : ', the nearest to it') : '' }}</span>
        <span v-for="w in c.wanting" :key="w" class="want">{{ w }}</span>
        <ElButton size="small" :name="`draw-${i}`" @click="draw(c)">Draw this path</ElButton>
      </div>
      <svg :viewBox="`0 0 ${W} 62`" role="img" :aria-label="`Room ${db(c.room_db)}, sees ${db(c.spare_db)} under the limit`">
        <line :x1="middle" :x2="middle" y1="2" y2="60" class="zero" />
        <rect :x="middle - bar(c.room_db)" y="10" :width="bar(c.room_db)" height="18" :class="{ short: c.short, bad: (c.room_db ?? 0) < 0 }" />
        <text :x="middle - bar(c.room_db) - 6" y="25" text-anchor="end">{{ c.room_db != null ? db(c.room_db) : 'no rating' }}</text>
        <rect v-if="c.spare_db != null" :x="middle" y="10" :width="bar(c.spare_db)" height="18" :class="{ bad: c.spare_db < 0 }" class="see" />
        <text :x="middle + bar(c.spare_db) + 6" y="25">{{ c.spare_db == null ? 'no limit here' : `${db(c.spare_db)} at ${c.spare_at} f` }}</text>
        <text class="made" :x="middle + 6" y="48">{{ c.self_made_db == null ? 'its own harmonics: not known, unverified' : `the analyzer’s own harmonics ${c.self_made_db < 0 ? 'over it by' : 'under it by'} ${db(Math.abs(c.self_made_db)).replace('+', '')}` }}</text>
        <text class="made" :x="middle - 6" y="48" text-anchor="end">{{ c.reach > 0 ? `sees up to ${c.reach} f` : '' }}</text>
      </svg>
    </article>
    <p v-if="found.length" class="soft">Pads keep an analyzer alive and honest, and hide weak emissions. {{ wanted }} Power is the highest claimed, plus 1 dB.</p>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  margin: 12px 0;
  font-size: 14px;
  color: var(--soft);
}
.heads {
  display: grid;
  grid-template-columns: 1fr 1fr;
  width: 460px;
  margin: 8px 140px 0 auto;
  font-size: 14px;
}
.heads span:first-child {
  text-align: right;
  padding-right: 12px;
}
.heads span:last-child {
  padding-left: 12px;
}
article {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 600px;
  gap: 22px;
  border-top: 1px solid var(--hair);
  padding: 8px 0;
}
.best {
  background: var(--sheet);
  margin: 0 -14px;
  padding: 8px 14px;
}
@media (max-width: 1000px) {
  .best {
    margin: 0;
    padding: 8px 0;
  }
  .heads {
    width: auto;
    margin: 8px 0;
  }
  article {
    grid-template-columns: minmax(0, 1fr) !important;
  }
}
.best b {
  font-size: 20px;
}
.what {
  display: grid;
  gap: 3px;
  justify-items: start;
  align-content: start;
}
.want {
  border-left: 3px solid var(--amber);
  padding-left: 8px;
  font-size: 14px;
}
rect {
  fill: color-mix(in srgb, var(--ink) 45%, transparent);
}
rect.see {
  fill: color-mix(in srgb, var(--ink) 22%, transparent);
}
rect.short {
  fill: var(--amber);
}
rect.bad {
  fill: var(--rust);
}
.zero {
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-size: 17px;
  font-weight: 600;
  fill: var(--ink);
}
.made {
  font-size: 13px;
  font-weight: 400;
  fill: var(--soft);
}
</style>
