<script lang="ts">
export interface Sought { q: string; band: string; verdict: string; since: string; until: string; unfinished: boolean; away: boolean; sort: 'changed' | 'name' }
export const nothingSought: Sought = { q: '', band: '', verdict: '', since: '', until: '', unfinished: false, away: false, sort: 'changed' }
</script>

<script setup lang="ts">
// Which reviews are shown, in which order.
import { computed } from 'vue'
import { api, ask, useAsked } from '../shared/server'

const sought = defineModel<Sought>({ required: true })
const bands = useAsked('bands', () => [] as const, () => ask(api.GET('/api/v1/bands', { params: { query: {} } })))
const verdicts = [['', 'any ruling'], ['pass', 'passes'], ['passes-so-far', 'passes so far'], ['fail', 'fails'], ['inconclusive', 'too close to call'], ['not-examined', 'not examined'], ['no-limit', 'no limit'], ['void', 'void']] as const
function of<K extends keyof Sought>(name: K) {
  return computed<Sought[K]>({ get: () => sought.value[name], set: (v) => (sought.value = { ...sought.value, [name]: v }) })
}
const [q, band, verdict, since, until, unfinished, away, sort] = [of('q'), of('band'), of('verdict'), of('since'), of('until'), of('unfinished'), of('away'), of('sort')]
</script>

<template>
  <form class="find" role="search" aria-label="Find a review" @submit.prevent>
    <ElInput v-model="q" name="find" class="q" placeholder="maker, model, serial" aria-label="Words of maker, model, serial or date code" clearable />
    <ElSelect v-model="band" aria-label="Band" filterable :empty-values="[null, undefined]"><ElOption value="" label="any band" /><ElOption v-for="b in bands.answer.value ?? []" :key="b.name" :value="b.name" :label="b.name" /></ElSelect>
    <ElSelect v-model="verdict" aria-label="Ruling" :empty-values="[null, undefined]"><ElOption v-for="[v, l] in verdicts" :key="v" :value="v" :label="l" /></ElSelect>
    <label class="soft">changed from <input v-model="since" type="date" name="since" aria-label="Changed from" /></label>
    <label class="soft">to <input v-model="until" type="date" name="until" aria-label="Changed up to" /></label>
    <label class="soft"><input v-model="unfinished" type="checkbox" name="unfinished" /> no edition yet</label>
    <label class="soft"><input v-model="away" type="checkbox" name="put-away" /> put away</label>
    <ElSelect v-model="sort" aria-label="Order"><ElOption value="changed" label="last changed first" /><ElOption value="name" label="by name" /></ElSelect>
  </form>
</template>

<style scoped>
.find {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  margin-bottom: 14px;
  font-size: 14px;
}
.q {
  width: 200px;
}
.find .el-select {
  width: 150px;
}
input[type='date'] {
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
</style>
