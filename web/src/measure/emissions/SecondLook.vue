<script setup lang="ts">
// Two looks at one step, laid over each other: what each product did between them.
import { computed, ref } from 'vue'
import type { Schemas } from '../../shared/server'
import { db, dbm, words } from '../../shared/figures'

const props = defineProps<{ seconds: Schemas['EmissionsSecondLook'][]; standings: Record<string, string> }>()
const emit = defineEmits<{ suspect: [id: string, reason: string] }>()
const at = ref(0)
const pair = computed(() => props.seconds[Math.min(at.value, props.seconds.length - 1)])
const did: Record<string, string> = {
  stays: 'stays: it comes in from the radio',
  follows: 'fell away: the first analyzer’s own',
  fell: 'fell',
  rose: 'rose',
  hidden: 'hidden in the noise of the second',
  'only-second': 'in the second alone',
}
const plain: Record<string, string> = { ...did, stays: 'the same' }
</script>

<template>
  <section v-if="pair" class="second" data-second>
    <h3>
      <select v-if="seconds.length > 1" v-model.number="at" aria-label="Two looks"><option v-for="(s, i) in seconds" :key="s.first_id + s.second_id" :value="i">{{ s.second }}, after {{ s.first }}</option></select>
      <template v-else>{{ pair.second }}, after {{ pair.first }}</template>
    </h3>
    <p class="says" :data-says="pair.says.code">{{ words(pair.says.detail) }}<template v-if="pair.says.advice">: {{ words(pair.says.advice) }}</template></p>
    <p v-if="pair.says.code === 'second-own' && standings[pair.first_id] === 'in-force'"><ElButton size="small" name="suspect-first" @click="emit('suspect', pair.first_id, `${pair.says.detail} (${pair.second})`)">Hold “{{ pair.first }}” suspect</ElButton></p>
    <table v-if="pair.products.length">
      <thead><tr><th /><th>before</th><th>after</th><th>change</th></tr></thead>
      <tbody>
        <tr v-for="(p, i) in pair.products" :key="i" :data-change="p.says">
          <td>{{ p.name }}<br /><span class="soft did">{{ (pair.padded ? did : plain)[p.says] }}</span></td><td class="n">{{ p.first_dbm == null ? 'not seen' : dbm(p.first_dbm) }}</td><td class="n">{{ p.second_dbm == null ? 'not seen' : dbm(p.second_dbm) }}</td>
          <td class="r">{{ p.change_db == null ? '' : `${db(p.change_db)}${p.second_dbm == null ? ' or more' : ''}` }}</td>
        </tr>
      </tbody>
    </table>
    <p class="soft small">{{ Math.abs(pair.more_db) < 0.05 ? 'Both through the same loss' : `${db(pair.more_db)} of loss at the carrier in the second` }}; the carrier {{ db(pair.carrier_db) }}; changes are counted from it</p>
  </section>
</template>

<style scoped>
.second {
  margin: 14px 0;
}
.says {
  border-left: 3px solid var(--amber);
  padding: 2px 10px;
}
[data-says='second-real'],
[data-says='second-same'] {
  border-color: var(--soft);
}
table {
  border-collapse: collapse;
  font-size: 15px;
}
th {
  font-weight: 400;
  color: var(--soft);
  text-align: right;
}
td,
th {
  padding: 2px 10px 2px 0;
  vertical-align: top;
}
.did {
  font-size: 13px;
}
.n,
.r {
  text-align: right;
}
.n {
  white-space: nowrap;
}
select {
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
select {
  max-width: 100%;
}
.small {
  font-size: 14px;
}
</style>
