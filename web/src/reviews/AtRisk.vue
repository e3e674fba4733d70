<script setup lang="ts">
// A path in danger where a radio is about to be keyed: what a part takes for a short time is asked for on
// the spot; a part that gets at most twice what it takes may be keyed into briefly, at one's own risk; and
// what was taken already is kept, marked.
import { computed, ref } from 'vue'
import { api, ask, wordsOf } from '../shared/server'
import { decimal } from '../shared/numbers'
import { untilAnswered, useBench, type Stairs } from '../bench/bench'

export interface Risk { key_s: number; rest_s: number }
const props = defineProps<{ stairs: Stairs; typed: boolean }>()
const emit = defineEmits<{ risk: [Risk]; taken: [] }>()
const bench = useBench()
const trouble = ref('')
const shortW = ref('')
const shortS = ref('')
const keyS = ref('5')
const restS = ref('60')

const parts = computed(() => bench.bench?.paths.find((p) => p.id === props.stairs.path_id)?.parts ?? [])
const dangers = computed(() => props.stairs.problems.filter((p) => p.severity === 'danger'))
const hot = computed(() => dangers.value.find((p) => p.code === 'over-rating' && p.element != null && props.stairs.titles.length === parts.value.length))
const part = computed(() => (hot.value ? bench.byId.get(parts.value[hot.value.element!]?.kit_id ?? '') : undefined))
const asksShort = computed(() => part.value && part.value.spec.element.short_max_w == null && part.value.spec.element.max_w != null)
const twice = 3.02 // dB: nothing is keyed at one's own risk into more than twice its rating
const briefly = computed(() => dangers.value.length > 0 && dangers.value.every((p) => {
  const lid = p.element == null ? null : props.stairs.lids_dbm[p.element]
  const level = p.element == null ? null : props.stairs.multiples.nodes[p.element]?.arriving_dbm[0]
  return p.code === 'over-rating' && lid != null && level != null && level + props.stairs.peak_db - lid <= twice
}))

async function keepShort() {
  const k = part.value
  if (!k) return
  trouble.value = ''
  const spec = { ...k.spec, element: { ...k.spec.element, short_max_w: decimal(shortW.value), short_s: decimal(shortS.value) } }
  try {
    bench.keepKit(await untilAnswered(() => ask(api.PUT('/api/v1/kit/{id}', { params: { path: { id: k.id } }, body: { version: k.version, name: k.name, spec, retired: k.retired_at != null } }))))
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}
function take() {
  const risk = { key_s: decimal(keyS.value), rest_s: decimal(restS.value) }
  if (!(risk.key_s > 0 && risk.key_s <= 30) || !(risk.rest_s >= 0 && risk.rest_s <= 3600)) trouble.value = 'Give up to 30 s keyed, and up to 3600 s of rest.'
  else emit('risk', risk)
}
</script>

<template>
  <section class="risk" aria-label="In danger as wired" data-risk>
    <form v-if="asksShort" @submit.prevent="keepShort">
      What does {{ part!.name }} take for a short time? <input v-model="shortW" name="short-w" inputmode="decimal" aria-label="For a short time, W" /> W for <input v-model="shortS" name="short-s" inputmode="decimal" aria-label="For at most, s" /> s <ElButton size="small" native-type="submit" name="keep-short" :disabled="!shortW || !shortS">Keep it</ElButton>
    </form>
    <form v-if="briefly" @submit.prevent="take">
      Or briefly, at my own risk: at most <input v-model="keyS" name="risk-key" inputmode="decimal" aria-label="Keyed at most, s" /> s, then <input v-model="restS" name="risk-rest" inputmode="decimal" aria-label="Rest, s" /> s of rest <ElButton size="small" native-type="submit" name="at-my-risk">At my risk</ElButton> <span class="soft">it stands in the edition</span>
    </form>
    <p v-if="typed"><ElButton size="small" name="taken-already" @click="$emit('taken')">It was taken already: keep it, marked</ElButton></p>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.risk {
  border-left: 4px solid var(--rust);
  padding: 2px 12px;
  margin: 8px 0;
  font-size: 15px;
}
form {
  margin: 4px 0;
}
input {
  width: 52px;
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
  text-align: right;
}
</style>
