<script setup lang="ts">
// A comparison of those ticked, frozen into a page of its own; those frozen before stand below.
import { ref } from 'vue'
import { day } from '../shared/figures'
import { remember } from '../shared/remember'
import { api, ask, send, useAsked, type Schemas } from '../shared/server'

const props = defineProps<{ ids: string[] }>()
const asked = useAsked('comparisons', () => [] as const, () => ask(api.GET('/api/v1/comparisons')))
const title = remember('comparison title', '')
const trouble = ref('')
async function freeze() {
  trouble.value = ''
  const body = { title: title.value, ids: props.ids }
  const got = await send<Schemas['RecordFrozenComparison']>({ what: 'comparison', review: '', label: 'a comparison', path: '/api/v1/comparisons', json: (id) => ({ id, ...body }) })
  if (!got.ok) trouble.value = got.refusal.words
  else {
    title.value = ''
    void asked.again()
  }
}
</script>

<template>
  <form class="freeze" @submit.prevent="freeze">
    <label>Freeze those ticked into a page of its own, called <ElInput v-model="title" name="comparison-title" maxlength="200" /></label>
    <ElButton native-type="submit" name="comparison-freeze" :disabled="!ids.length || !title.trim()">Freeze it</ElButton>
  </form>
  <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
  <ul v-if="asked.answer.value?.length">
    <li v-for="c in asked.answer.value" :key="c.id"><a :href="`/api/v1/comparisons/${c.id}`" target="_blank">{{ c.title }}</a> <span class="soft">frozen {{ day(c.frozen_at) }}</span></li>
  </ul>
</template>

<style scoped>
.freeze {
  display: flex;
  gap: 14px;
  align-items: end;
  font-size: 15px;
  margin-top: 10px;
}
.freeze .el-input {
  width: 320px;
}
ul {
  padding-left: 18px;
  font-size: 15px;
}
</style>
