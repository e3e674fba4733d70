<script setup lang="ts">
// The DC side in one line: which supply, set to what, over which leads.
import { computed } from 'vue'
import TypedLine from '../../shared/TypedLine.vue'
import { useBench } from '../bench'
import { decimal } from '../../shared/numbers'
import type { Draft } from './draft'

const props = defineProps<{ draft: Draft }>()
const emit = defineEmits<{ change: [by: (d: Draft) => void] }>()
const bench = useBench()
const supplies = computed(() => bench.owned.filter((k) => k.kind === 'supply'))
const own = computed(() => bench.byId.get(props.draft.supply?.kit_id ?? '')?.spec.supply)

function pick(id: string) {
  emit('change', (d) => {
    d.supply = (id ? { kit_id: id, set_v: bench.byId.get(id)!.first_v } : null) as Draft['supply']
  })
}
const put = (field: 'set_v' | 'lead_ohm', text: string) => {
  const v = decimal(text)
  if (text.trim() === '' && field === 'lead_ohm') emit('change', (d) => d.supply && delete d.supply.lead_ohm)
  else if (v > 0 || (field === 'lead_ohm' && v === 0)) emit('change', (d) => d.supply && (d.supply[field] = v))
}
</script>

<template>
  <label class="soft">supply
    <select :value="draft.supply?.kit_id ?? ''" aria-label="Supply" @change="pick(($event.target as HTMLSelectElement).value)">
      <option value="">its own battery</option>
      <option v-for="k in supplies" :key="k.id" :value="k.id">{{ k.name }}</option>
    </select>
  </label>
  <template v-if="draft.supply">
    <label class="soft">set to, V <TypedLine :value="String(draft.supply.set_v)" name="set-v" @commit="(v) => put('set_v', v)" /></label>
    <label class="soft">leads, Ω <TypedLine :value="draft.supply.lead_ohm == null ? '' : String(draft.supply.lead_ohm)" name="lead-ohm" :placeholder="String(own?.lead_ohm ?? 0)" @commit="(v) => put('lead_ohm', v)" /></label>
  </template>
</template>

<style scoped>
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.el-input {
  width: 60px;
}
</style>
