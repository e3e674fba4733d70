<script setup lang="ts">
import { useHelp } from '../../shared/help'
import { date } from '../../shared/figures'
import { computed, nextTick, ref } from 'vue'
import { api, ask, newKey, wordsOf } from '../../shared/server'
import { sift, wasUsed } from '../../shared/search'
import { untilAnswered, useBench, type Kit } from '../bench'
import { kindNames } from './fields'
import KitEditor from './KitEditor.vue'
import KitStrip from './KitStrip.vue'

const bench = useBench()
const open = ref('')
const adding = ref(false)
const sought = ref('')
const trouble = ref('')
const list = ref<HTMLElement>()
const removed = ref<Kit | null>(null)
const decades = ['100 kHz', '1 MHz', '10 MHz', '100 MHz', '1 GHz', '10 GHz']

const found = computed(() => {
  const all = bench.bench?.kit ?? []
  const named = (k: Kit) => `${k.name} ${kindNames[k.kind]}`
  const kept = [...all.filter((k) => !k.retired_at), ...all.filter((k) => k.retired_at)]
  return sought.value.trim() ? sift(kept, sought.value, named) : kept
})
/** Opens the first that was found; the search is free for the next. */
async function openFirst() {
  const first = found.value[0]
  if (!first || !sought.value.trim()) return
  sought.value = ''
  if (open.value !== first.id) toggle(first.id)
  await toName(first.id)
}
async function toName(id: string) {
  await nextTick()
  const name = list.value?.querySelector<HTMLInputElement>(`[data-id="${id}"] input[name=name]`)
  name?.scrollIntoView({ block: 'center' })
  name?.select()
}

async function write(id: string, name: string, spec: Kit['spec']) {
  const made = await untilAnswered(() => ask(api.PUT('/api/v1/kit/{id}', { params: { path: { id } }, body: { version: 0, name, spec, retired: false } })))
  bench.keepKit(made)
  return made
}
async function takeBack() {
  if (!removed.value) return
  try {
    await write(removed.value.id, removed.value.name, removed.value.spec)
    removed.value = null
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}
async function add(kind: string) {
  const typical = bench.kinds?.kinds.find((k) => k.kind === kind)?.typical
  if (!typical) return
  try {
    const made = await write(newKey(), `new ${kindNames[kind]}`, typical)
    adding.value = false
    sought.value = ''
    toggle(made.id)
    await toName(made.id)
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}
function gone(k: Kit) {
  open.value = ''
  removed.value = k
}
function toggle(id: string) {
  if (open.value !== id) wasUsed(id)
  open.value = open.value === id ? '' : id
}
useHelp(() => ({ title: 'Kit', keys: [['pad 40dB 10W', 'in the line: a thing with its figures'], ['Enter', 'opens a thing, or the first that was found']], words: ['typical', 'pad', 'SWR', 'floor', 'RBW', 'k = 2', 'lid'] }))
</script>

<template>
  <div ref="list">
    <div class="head">
      <ElInput v-model="sought" name="sought" placeholder="search" aria-label="Search the kit" @keydown.enter.prevent="openFirst" />
      <ElButton name="add-kit" :aria-expanded="adding" @click="adding = !adding">Write down another thing</ElButton>
      <span class="soft">Each over the frequencies it is made for. A click or <kbd>Enter</kbd> opens it; everything is kept as you type.</span>
    </div>
    <div v-if="adding" class="kinds" role="group" aria-label="What is it?">
      <span class="soft">What is it? It begins with what is typical, marked so.</span>
      <button v-for="k in bench.kinds?.kinds" :key="k.kind" type="button" class="link" :name="`kind-${k.kind}`" @click="add(k.kind)">{{ kindNames[k.kind] }}</button>
    </div>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <div class="scale soft" aria-hidden="true"><span v-for="(d, i) in decades" :key="d" :style="{ left: `${i * 20}%` }">{{ d }}</span></div>
    <article v-for="k in found" :key="k.id" :data-id="k.id" :class="{ retired: k.retired_at, open: open === k.id }">
      <div class="strip" role="button" tabindex="0" :aria-expanded="open === k.id" @click="toggle(k.id)" @keydown.enter="toggle(k.id)" @keydown.space.prevent="toggle(k.id)">
        <KitStrip :item="k" :open="open === k.id" />
        <span v-if="k.retired_at" class="soft when">retired {{ date(k.retired_at) }}</span>
      </div>
      <KitEditor v-if="open === k.id" :item="k" @removed="gone(k)" />
    </article>
    <p v-if="removed" class="undo" role="status">{{ removed.name }} was removed. <ElButton size="small" @click="takeBack">Take it back</ElButton></p>
    <p v-if="found.length === 0" class="soft">{{ sought ? 'Nothing goes by that name.' : 'Nothing is written down yet. Begin with what is wired most: a load, a meter, a pad.' }}</p>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 22px;
  align-items: center;
}
.head .el-input {
  width: 200px;
}
.head .soft {
  font-size: 14px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  background: var(--sheet);
  border: 1px solid var(--hair);
  padding: 10px 16px;
  margin: 10px 0;
}
.kinds .soft {
  flex: 1 1 100%;
  font-size: 14px;
}
.kinds button {
  padding: 2px 4px;
  font-size: 16px;
}
.scale {
  position: relative;
  height: 20px;
  font-size: 12px;
  margin: 8px 220px 0 350px;
}
.scale span {
  position: absolute;
  transform: translateX(-50%);
  white-space: nowrap;
}
article {
  border-top: 1px solid var(--hair);
  padding: 5px 0;
}
article.open {
  background: var(--sheet);
  margin: 0 -14px;
  padding: 5px 14px;
}
article.retired .strip :deep(b) {
  color: var(--soft);
  font-weight: 400;
}
.strip {
  cursor: pointer;
}
.strip:focus-visible {
  outline: 2px solid var(--ink);
}
.when {
  font-size: 13px;
}
</style>
