<script setup lang="ts">
// A book as it is written, as sentences or as JSON in the shape of its schema. What is wrong is
// said with where, nothing typed is lost, and the picture above follows as one types.
import { computed, ref, watch } from 'vue'
import { remember } from '../shared/remember'
import { send, type FieldProblem } from '../shared/server'
import BookSentences from './BookSentences.vue'
import { readable, type Part } from './fields'

const props = defineProps<{ of: string; begin: string; over: string }>()
const emit = defineEmits<{ kept: [id: string]; leave: []; draft: [book: Record<string, unknown> | null] }>()
const text = remember(`rule book ${props.of}`, props.begin)
const busy = ref(false) // on its way, however long that takes
const wrong = ref<FieldProblem[]>([])
const parsed = computed<{ book: Record<string, unknown> | null; why: string }>(() => {
  try {
    const book = JSON.parse(text.value) as unknown
    return book && typeof book === 'object' && !Array.isArray(book) ? { book: book as Record<string, unknown>, why: '' } : { book: null, why: 'A book is one object in braces.' }
  } catch (e) {
    return { book: null, why: `No JSON yet: ${(e as Error).message}` }
  }
})
watch(() => parsed.value.book, (b) => emit('draft', b), { immediate: true })
const as = remember<'sentences' | 'JSON'>('rule book written as', 'sentences')
const sentences = computed(() => as.value === 'sentences' && parsed.value.book !== null && readable(parsed.value.book))
// What it was before each change made to a sentence; what is typed into one field is one.
const past = ref<string[]>([])
let typedAt: Element | null = null
function change(book: Part) {
  const at = document.activeElement
  if (!(at instanceof HTMLInputElement) || at !== typedAt) past.value.push(text.value)
  typedAt = at
  text.value = JSON.stringify(book, null, 2)
}
const stands = ref(false) // another wording under its id
function undo() {
  text.value = past.value.pop()!
  typedAt = null
}
async function keep(over = props.over) {
  if (!parsed.value.book || busy.value) return
  busy.value = true
  wrong.value = []
  stands.value = false
  const book = parsed.value.book
  const got = await send<{ id: string }>({ what: 'rule-book', review: '', label: String(book.id ?? 'rule book'), path: '/api/v1/rule-books', json: (id) => ({ id, book, ...(over ? { over } : {}) }) })
  busy.value = false
  if (!got.ok) {
    stands.value = got.refusal.stale
    wrong.value = got.refusal.fields.length ? got.refusal.fields : [{ field: '', detail: got.refusal.words }]
    return
  }
  text.value = ''
  emit('kept', got.data.id)
}
function leave() {
  text.value = ''
  emit('leave')
}
</script>

<template>
  <div class="words">
    <p role="group" aria-label="How it is written">
      <button v-for="w in ['sentences', 'JSON'] as const" :key="w" type="button" class="option" :name="`as-${w}`" :aria-pressed="sentences === (w === 'sentences')" :disabled="w === 'sentences' && !(parsed.book && readable(parsed.book))" @click="as = w">{{ w === 'JSON' ? 'as JSON' : 'in sentences' }}</button>
      <ElButton v-if="sentences" size="small" name="undo-sentence" :disabled="!past.length" @click="undo">Undo</ElButton>
    </p>
    <BookSentences v-if="sentences" :book="parsed.book!" :wrong="wrong" @change="change" />
    <textarea v-else v-model="text" name="book-json" class="mono" rows="16" spellcheck="false" aria-label="The book as JSON" />
    <p v-if="parsed.why" class="soft" role="status">{{ parsed.why }}</p>
    <ul v-if="wrong.length" class="wrong"><li v-for="f in wrong" :key="f.field"><b>{{ f.field }}</b> {{ f.detail }}</li></ul>
    <p><ElButton type="primary" name="keep-book" :disabled="!parsed.book || busy" @click="keep()">Keep this book</ElButton> <ElButton v-if="stands" name="keep-over" @click="keep('any')">Keep it as that book’s new wording</ElButton> <ElButton @click="leave">Leave it</ElButton> <span class="soft">An <span class="mono">id</span> of its own makes another book; the id of one of yours makes a new wording of it. Frozen editions keep the wording they were judged by.</span></p>
  </div>
</template>

<style scoped>
textarea {
  width: 100%;
  font-size: 14px;
  line-height: 1.4;
  color: var(--ink);
  background: var(--ground);
  border: 1px solid var(--soft);
  padding: 8px 10px;
}
.option:disabled {
  cursor: default;
  text-decoration: line-through;
}
.wrong {
  border-left: 3px solid var(--rust);
  padding: 2px 12px 2px 26px;
}
</style>
