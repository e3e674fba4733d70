<script setup lang="ts">
// Every calculation by itself, live as one types, with its formula in figures and where that is from.
import { computed, nextTick, onMounted, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { words } from '../shared/figures'
import { useHelp } from '../shared/help'
import { remember } from '../shared/remember'
import { api, ask, useAsked } from '../shared/server'
import ScratchLine from './ScratchLine.vue'
import { standing } from './standing'

const calcs = useAsked('scratch pad', () => [] as const, () => ask(api.GET('/api/v1/scratch')))
const typed = remember<Record<string, Record<string, string>>>('scratch pad', {})
const sought = ref('')
const route = useRoute()
/** What stood on the screen that one came from goes into the fields it belongs to. */
const brought = reactive<Record<string, string>>({})
watch(() => [calcs.answer.value, route.query.from] as const, ([all, from]) => {
  if (!all || !from) return
  const now = { ...typed.value }
  for (const c of all)
    for (const f of c.fields) {
      const v = f.as ? standing.value[f.as as keyof typeof standing.value] : undefined
      if (v) {
        now[c.name] = { ...now[c.name], [f.name]: v }
        brought[`${c.name} ${f.name}`] = v
      }
    }
  typed.value = now
}, { immediate: true })
const shown = computed(() => {
  const all = calcs.answer.value ?? []
  const like = sought.value.trim().toLowerCase().split(/\s+/).filter(Boolean)
  return all.filter((c) => like.every((w) => `${c.title} ${c.name} ${c.fields.map((f) => f.label).join(' ')}`.toLowerCase().includes(w)))
})
const set = (calc: string, field: string, text: string) => (typed.value = { ...typed.value, [calc]: { ...typed.value[calc], [field]: text } })
const search = ref<{ focus: () => void }>()
onMounted(() => void nextTick(() => search.value?.focus()))
useHelp(() => ({ title: 'Scratch pad', keys: [['Alt S', 'from anywhere, with what stands there; once more goes back'], ['Tab', 'the next field']], words: ['at the connector', 'offset', 'SWR', 'dBc', 'RBW', 'k = 2', 'harmonic'] }))
</script>

<template>
  <div class="page">
    <header>
      <h1>Scratch pad</h1>
      <ElInput ref="search" v-model="sought" name="scratch-find" placeholder="find a calculation" aria-label="Find a calculation" />
    </header>
    <p class="soft">Every calculation that stands behind a ruling, by itself. What you type is kept; nothing of it goes into a review.<template v-if="Object.keys(brought).length"> Filled in from where you came.</template></p>
    <p v-if="calcs.trouble.value" class="danger" role="alert">{{ calcs.trouble.value }}</p>
    <p v-if="calcs.waiting.value && !calcs.answer.value" class="soft" role="status">Looking…</p>
    <ScratchLine v-for="c in shown" :key="c.name" :calc="c" :typed="typed[c.name] ?? {}" @typed="(field, text) => set(c.name, field, text)" @anew="typed = { ...typed, [c.name]: {} }" />
    <p v-if="calcs.answer.value && shown.length === 0" class="soft">No calculation goes by “{{ words(sought) }}”.</p>
  </div>
</template>

<style scoped>
.page {
  max-width: 1080px;
  padding: 22px 34px 60px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 34px;
  align-items: baseline;
}
header .el-input {
  width: 240px;
}
</style>
