<script setup lang="ts">
// Some fields of a part of a book, those it has, as words with places to type in; and a way
// to say another of them.
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { decimal } from '../shared/numbers'
import { without, type Field, type Part } from './fields'

const props = defineProps<{ fields: readonly Field[]; of: Part; name: string; more?: string }>()
const emit = defineEmits<{ change: [of: Part] }>()
const has = computed(() => props.fields.filter((f) => props.of[f.key] !== undefined))
const hasNot = computed(() => props.fields.filter((f) => props.of[f.key] === undefined))
const line = useTemplateRef<HTMLElement>('line')
const label = (f: Field) => (f.unit ? `${f.says} … ${f.unit}` : f.says)
const set = (key: string, value: unknown) => emit('change', { ...props.of, [key]: value })
function read(f: Field, text: string): unknown {
  if (f.as === 'words') return text.split(',').map((w) => w.trim()).filter(Boolean)
  if (f.as !== 'figure') return text
  const v = decimal(text)
  return Number.isNaN(v) ? text : Number((v * (f.scale ?? 1)).toPrecision(12))
}
// A field as it is typed, until it is left: "1." stays, though it is 1.
const typing = ref({ key: '', text: '' })
function type(f: Field, text: string) {
  typing.value = { key: f.key, text }
  set(f.key, read(f, text))
}
function shown(f: Field): string {
  if (typing.value.key === f.key) return typing.value.text
  const v = props.of[f.key]
  if (Array.isArray(v)) return v.join(', ')
  return f.as === 'figure' && typeof v === 'number' ? String(Number((v / (f.scale ?? 1)).toPrecision(12))) : String(v)
}
const unread = (f: Field) => f.as === 'figure' && typeof props.of[f.key] !== 'number'
function say(key: string) {
  const f = props.fields.find((o) => o.key === key)
  if (!f) return
  set(key, f.as === 'yes' ? true : f.as === 'words' ? [] : Array.isArray(f.as) ? f.as[0] : '')
  void nextTick(() => line.value?.querySelector<HTMLElement>(`[name="${props.name}-${key}"]`)?.focus())
}
</script>

<template>
  <span ref="line" class="line">
    <span v-for="f in has" :key="f.key" class="field">
      <label>{{ f.says }}
        <select v-if="Array.isArray(f.as)" :name="`${name}-${f.key}`" :value="of[f.key]" @change="set(f.key, ($event.target as HTMLSelectElement).value)"><option v-for="o in f.as" :key="o">{{ o }}</option></select>
        <input v-else-if="f.as !== 'yes'" :type="f.as === 'date' ? 'date' : 'text'" :name="`${name}-${f.key}`" :class="f.as === 'text' ? 'wide' : f.as" :inputmode="f.as === 'figure' ? 'decimal' : undefined" :value="shown(f)" :aria-invalid="unread(f)" @input="type(f, ($event.target as HTMLInputElement).value)" @blur="typing = { key: '', text: '' }" />
        {{ f.unit }}</label>
      <em v-if="unread(f)" class="danger" role="alert">no figure yet</em>
      <button type="button" class="off" :aria-label="`Leave out: ${label(f)}`" :title="`leave out: ${label(f)}`" @click="emit('change', without(of, f.key))">−</button>
    </span>
    <select v-if="hasNot.length && more" class="more" :name="`${name}-more`" :aria-label="more" value="" @change="say(($event.target as HTMLSelectElement).value)">
      <option value="">{{ more }}</option>
      <option v-for="f in hasNot" :key="f.key" :value="f.key">{{ label(f) }}</option>
    </select>
  </span>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 14px;
  flex: 1 1 0;
}
input,
select {
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
  padding: 1px 0;
}
/* as wide as what is typed */
input {
  field-sizing: content;
  min-width: 44px;
  max-width: 620px;
}
input.wide {
  min-width: 160px;
}
select.more {
  color: var(--soft);
  border-bottom-style: dashed;
  max-width: 170px;
}
em {
  font-style: normal;
  font-size: 13px;
  margin-left: 6px;
}
.off {
  all: unset;
  cursor: pointer;
  padding: 0 5px;
  color: var(--soft);
}
.off:hover,
.off:focus-visible {
  color: var(--ink);
  outline: 1px solid var(--ink);
}
</style>
