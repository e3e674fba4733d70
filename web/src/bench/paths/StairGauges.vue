<script setup lang="ts">
// The two opposed gauges at the instrument's end, what to dial in, and the DC side.
import { computed } from 'vue'
import { db, dbm, watts } from '../../shared/figures'
import type { Stairs } from '../bench'

const props = defineProps<{ stairs: Stairs; multiple: number; bare?: boolean }>()

// At the carrier itself nothing is limited: the multiple with least to spare is shown.
const spareAt = computed(() => {
  const spares = props.stairs.spare_db
  if (props.multiple > 1) return props.multiple - 1
  let least = 1
  spares.forEach((v, k) => {
    if (v != null && (spares[least] == null || v < spares[least]!)) least = k
  })
  return least
})
const spare = computed(() => props.stairs.spare_db[spareAt.value] ?? null)
const visible = computed(() => props.stairs.multiples.lowest_visible_dbm?.[spareAt.value] ?? null)
const room = computed(() => props.stairs.headroom_db ?? props.stairs.tightest_db)
const figure = (v: number | null | undefined, unit: string, digits: number) => (v == null ? 'no figure' : `${v.toFixed(digits)} ${unit}`)
</script>

<template>
  <div class="below" :class="{ bare }">
    <div v-if="room != null" class="gauge">
      <span class="soft">{{ stairs.headroom_db != null ? 'room before the analyzer is damaged' : 'room to the nearest rating' }}</span>
      <b :class="{ danger: room < 0 }">{{ db(room) }}</b>
    </div>
    <div v-if="visible != null" class="gauge">
      <span class="soft">lowest visible at {{ spareAt + 1 }} f, {{ dbm(visible) }}: under the limit by</span>
      <b :class="{ danger: spare != null && spare < 0 }">{{ spare == null ? 'no limit' : db(spare) }}</b>
    </div>
    <dl v-if="!bare" class="dial">
      <dt>Dial these in</dt>
      <dd v-for="d in stairs.dial_in" :key="d.what"><span class="soft">{{ d.what }}</span> {{ d.value }}</dd>
    </dl>
    <dl v-if="stairs.dc && !bare" class="dc">
      <dt>DC side, {{ stairs.supply_name }}</dt>
      <dd v-for="r in stairs.dc.rows" :key="r.level">
        <b>{{ r.level }}</b> {{ watts(r.w) }}: {{ r.a_known ? '' : 'about ' }}{{ figure(r.a, 'A', 2) }}, leads drop {{ figure(r.drop_v, 'V', 2) }}, <b>{{ figure(r.radio_v, 'V', 1) }}</b> at the radio
      </dd>
      <dd class="soft">{{ stairs.dc.rows.some((r) => !r.a_known) ? 'Amps reckoned from 40 % efficiency until they are read.' : 'Amps as read.' }}</dd>
    </dl>
  </div>
</template>

<style scoped>
.below {
  display: flex;
  flex-wrap: wrap;
  gap: 14px 36px;
  align-items: start;
}
.gauge {
  max-width: 220px;
}
.bare {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 18px;
}
.bare .gauge span {
  display: block;
  line-height: 1.25;
  font-size: 13px;
}
.gauge b {
  display: block;
  font-size: 34px;
  line-height: 1.2;
}
.gauge span {
  font-size: 14px;
}
dl {
  margin: 0;
  font-size: 15px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
}
.dial {
  flex: 1 1 340px;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 18px;
}
.dial dt,
.dial dd:last-child {
  grid-column: 1 / -1;
}
.dc {
  flex: 1 1 100%;
}
</style>
