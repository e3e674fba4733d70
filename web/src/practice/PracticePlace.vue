<script setup lang="ts">
// What can be practised, from the first afternoon to the nasty ones, and what was.
import { useHelp } from '../shared/help'
import { computed } from 'vue'
import { day } from '../shared/figures'
import { api, ask, useAsked } from '../shared/server'
import { useBegin } from './begin'

const asked = useAsked('practice list', () => [] as const, () => ask(api.GET('/api/v1/practice')))
const list = computed(() => asked.answer.value)
const { beginning, trouble, begin } = useBegin()
const done = (name: string) => list.value?.runs.filter((r) => r.scenario === name && r.wrong != null && r.of > 0) ?? []
useHelp(() => ({ title: 'Practise', keys: [['Alt K', 'the radio’s key, on a practice bench']], words: ['key-up', 'reading', 'path', 'ruling'] }))
</script>

<template>
  <div class="page">
    <h1>Practise</h1>
    <p class="lead">A bench that is not there: a radio to review, instruments that behave like instruments, and something hidden that is wrong. What you break stays broken until you begin again. At the end every ruling of yours is held against the truth.</p>
    <p v-if="trouble || asked.trouble.value" class="danger" role="alert">{{ trouble || asked.trouble.value }}</p>
    <ol v-if="list" class="scenarios">
      <li v-for="s in list.scenarios" :key="s.name">
        <h2>{{ s.title }}</h2>
        <p>{{ s.story }}</p>
        <p><ElButton size="small" :name="`begin-${s.name}`" :disabled="!!beginning" @click="begin(s.name)">{{ beginning === s.name ? 'Laying it out…' : 'Begin' }}</ElButton> <span v-if="done(s.name).length" class="soft">done {{ done(s.name).length }} {{ done(s.name).length === 1 ? 'time' : 'times' }}, at best {{ Math.min(...done(s.name).map((r) => r.wrong!)) }} ruled wrong</span></p>
      </li>
    </ol>
    <template v-if="list?.runs.length">
      <h2>So far</h2>
      <p v-for="r in list.runs" :key="r.review_id" class="run"><RouterLink :to="`/reviews/${r.review_id}/practice`">{{ r.title }}</RouterLink> <span class="soft">begun {{ day(r.begun_at) }}</span> {{ r.wrong == null ? 'goes on' : r.of ? `of ${r.of} rulings ${r.wrong} wrong` : 'ended with nothing ruled' }}</p>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 1020px;
  padding: 32px 40px;
}
.lead {
  max-width: 680px;
  font-size: 18px;
}
.scenarios {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px 40px;
  padding-left: 22px;
}
.scenarios h2 {
  font-size: 18px;
  margin: 0;
}
.scenarios p {
  margin: 4px 0;
}
.run {
  margin: 3px 0;
}
</style>
