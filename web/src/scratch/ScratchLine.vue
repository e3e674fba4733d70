<script setup lang="ts">
// One calculation on a line: its fields in a row, what comes out large, the formula under it.
import { computed, ref } from 'vue'
import { words } from '../shared/figures'
import { api, ask, Refusal, useAsked, type Schemas } from '../shared/server'

const props = defineProps<{ calc: Schemas['ScratchCalc']; typed: Record<string, string> }>()
const emit = defineEmits<{ typed: [field: string, text: string]; anew: [] }>()
const filled = computed(() => Object.fromEntries(props.calc.fields.map((f) => [f.name, props.typed[f.name] ?? f.usual])))
const wrong = ref<Record<string, string>>({})
const asked = useAsked<[string, Record<string, string>], Schemas['ScratchAnswer']>('scratch', () => [props.calc.name, filled.value] as const, async (calc, typed) => {
  try {
    const got = await ask(api.POST('/api/v1/scratch/{calc}', { params: { path: { calc } }, body: { typed } }))
    wrong.value = {}
    return got
  } catch (e) {
    if (e instanceof Refusal) wrong.value = Object.fromEntries(e.fields.map((f) => [f.field, f.detail]))
    throw e
  }
}, (was, now) => was[0] === now[0])
const answer = computed(() => (asked.trouble.value ? null : asked.answer.value))
const copied = ref(false)
async function copy() {
  const a = answer.value
  if (!a) return
  const text = `${props.calc.title}: ${a.figures.map((f) => `${f.label ? `${f.label} ` : ''}${f.text}`).join(', ')} (${a.formula})`
  try {
    await navigator.clipboard.writeText(text)
    copied.value = true
    setTimeout(() => (copied.value = false), 2000)
  } catch {
    copied.value = false
  }
}
</script>

<template>
  <section :data-calc="calc.name">
    <h2>{{ calc.title }}</h2>
    <div class="fields">
      <label v-for="f in calc.fields" :key="f.name">
        <span class="soft">{{ f.label }}</span>
        <ElSelect v-if="f.choices?.length" :model-value="filled[f.name]" :aria-label="`${calc.title}: ${f.label}`" @update:model-value="(v: string) => emit('typed', f.name, v)"><ElOption v-for="o in f.choices" :key="o" :value="o" :label="o.toUpperCase()" /></ElSelect>
        <input v-else :value="filled[f.name]" :name="`${calc.name}-${f.name}`" :aria-label="`${calc.title}: ${f.label}${f.unit ? `, ${f.unit}` : ''}`" :aria-invalid="!!wrong[f.name]" autocomplete="off" spellcheck="false" @input="emit('typed', f.name, ($event.target as HTMLInputElement).value)" />
        <span class="soft">{{ f.unit }}</span>
        <em v-if="wrong[f.name]" class="danger" role="alert">{{ wrong[f.name] }}</em>
      </label>
      <button v-if="Object.keys(typed).length" type="button" class="link soft" @click="emit('anew')">as it was</button>
    </div>
    <p class="out" aria-live="polite"><template v-if="answer"><span v-for="(f, i) in answer.figures" :key="i"><span v-if="f.label" class="soft">{{ f.label }}</span> <b>{{ words(f.text) }}</b></span></template><span v-else class="soft">{{ Object.keys(wrong).length ? 'see the field' : asked.trouble.value || '…' }}</span>
      <button v-if="answer" type="button" class="link" :name="`copy-${calc.name}`" @click="copy">{{ copied ? 'copied' : 'copy' }}</button></p>
    <p v-if="answer" class="soft small"><span class="mono">{{ words(answer.formula) }}</span> · {{ calc.source }}</p>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--hair);
  padding: 10px 0 8px;
}
h2 {
  font-size: 17px;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: baseline;
  margin: 4px 0;
}
label {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: baseline;
  font-size: 15px;
}
input {
  font: 500 18px 'IBM Plex Mono', monospace;
  width: 108px;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
.fields .el-select {
  width: 130px;
}
em {
  font-style: normal;
  font-size: 14px;
}
.out {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 24px;
  align-items: baseline;
  margin: 2px 0;
}
.out b {
  font-size: 22px;
}
.small {
  font-size: 13px;
  margin: 0;
}
</style>
