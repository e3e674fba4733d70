<script setup lang="ts">
// A book as it is written: JSON in the shape of its schema. What is wrong is said with where,
// nothing typed is lost, and the picture above follows as one types.
import { computed, ref, watch } from 'vue'
import { remember } from '../shared/remember'
import { send, type FieldProblem } from '../shared/server'

const props = defineProps<{ of: string; begin: string }>()
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
async function keep() {
  if (!parsed.value.book || busy.value) return
  busy.value = true
  wrong.value = []
  const book = parsed.value.book
  const got = await send<{ id: string }>({ what: 'rule-book', review: '', label: String(book.id ?? 'rule book'), path: '/api/v1/rule-books', json: (id) => ({ id, book }) })
  busy.value = false
  if (!got.ok) {
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
    <textarea v-model="text" name="book-json" class="mono" rows="16" spellcheck="false" aria-label="The book as JSON" />
    <p v-if="parsed.why" class="soft" role="status">{{ parsed.why }}</p>
    <ul v-if="wrong.length" class="wrong"><li v-for="f in wrong" :key="f.field"><b>{{ f.field }}</b> {{ f.detail }}</li></ul>
    <p><ElButton type="primary" name="keep-book" :disabled="!parsed.book || busy" @click="keep">Keep this book</ElButton> <ElButton @click="leave">Leave it</ElButton> <span class="soft">An <span class="mono">id</span> of its own makes another book; the id of one of yours makes a new wording of it. Frozen editions keep the wording they were judged by.</span></p>
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
.wrong {
  border-left: 3px solid var(--rust);
  padding: 2px 12px 2px 26px;
}
</style>
