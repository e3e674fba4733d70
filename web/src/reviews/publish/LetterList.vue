<script setup lang="ts">
// What maker, seller and readers wrote: kept word for word, printed only where they allowed it.
import { date } from '../../shared/figures'
import { computed, ref } from 'vue'
import { remember } from '../../shared/remember'
import { api, ask, send, useAsked, type Schemas } from '../../shared/server'
import { useReview } from '../review'

const book = useReview()
const asked = useAsked('letters', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/letters', { params: { path: { id } } })))
const letters = computed(() => asked.answer.value ?? [])
const kinds = [['reply', 'Reply'], ['denial', 'Denial'], ['admission', 'Admission'], ['refund', 'Refund'], ['third-laboratory', 'Third laboratory'], ['question', 'Question to readers'], ['answer', 'Answer of a reader']] as const
const senders = [['maker', 'the maker'], ['seller', 'the seller'], ['reader', 'a reader'], ['laboratory', 'a laboratory'], ['us', 'us']] as const
const blank = () => ({ kind: 'reply' as Schemas['RecordLetter']['kind'], from: 'maker', name: '', said_on: new Date().toISOString().slice(0, 10), about: '', text: '', may_print: false, serial: '', date_code: '' })
const typed = remember(`letter ${book.id}`, blank())
const open = ref(typed.value.text !== '')
const trouble = ref('')

async function write(body: Record<string, unknown>) {
  trouble.value = ''
  const got = await send({ what: 'letter', review: book.id, label: 'a letter', path: `/api/v1/reviews/${book.id}/letters`, json: (id) => ({ id, ...body }) })
  if (!got.ok) trouble.value = got.refusal.words
  else void asked.again()
  return got.ok
}
async function add() {
  if (await write({ ...typed.value })) {
    typed.value = blank()
    open.value = false
  }
}
const takeOut = (l: Schemas['RecordLetter']) => write({ replaces: l.id, kind: l.kind, from: l.from, said_on: l.said_on, text: '' })
const named = (all: readonly (readonly [string, string])[], v: string) => all.find(([k]) => k === v)?.[1] ?? v
</script>

<template>
  <section class="letters">
    <h3>Written about it</h3>
    <p v-if="!letters.length" class="soft">Nothing yet. What a maker, a seller or a reader says stands word for word beside the ruling it answers, where they allow it.</p>
    <article v-for="l in letters" :key="l.id">
      <b>{{ named(kinds, l.kind) }}</b>, {{ named(senders, l.from) }}{{ l.name && `, ${l.name}` }}, {{ date(l.said_on) }}{{ l.about && `, on ${l.about}` }}{{ l.serial && `, serial ${l.serial}` }}{{ l.date_code && `, date code ${l.date_code}` }}{{ l.may_print ? '' : ' (not to be printed)' }}
      <blockquote>{{ l.text }}</blockquote>
      <button type="button" class="option" @click="takeOut(l)">take out</button>
    </article>
    <button v-if="!open" type="button" class="option" name="letter" @click="open = true">Keep a letter</button>
    <form v-else @submit.prevent="add">
      <label>What it is <select v-model="typed.kind" name="letter-kind"><option v-for="[k, n] in kinds" :key="k" :value="k">{{ n }}</option></select></label>
      <label>From <select v-model="typed.from" name="letter-from"><option v-for="[k, n] in senders" :key="k" :value="k">{{ n }}</option></select></label>
      <label>Name <ElInput v-model="typed.name" name="letter-name" /></label>
      <label>Of the day <ElInput v-model="typed.said_on" name="letter-on" type="date" /></label>
      <label>On <select v-model="typed.about" name="letter-about"><option value="">all of it</option><option v-for="c in book.cells" :key="c.name" :value="c.name">{{ c.name }}</option></select></label>
      <template v-if="typed.from === 'reader'">
        <label>Serial of their unit <ElInput v-model="typed.serial" name="letter-serial" /></label>
        <label>Its date code <ElInput v-model="typed.date_code" name="letter-code" /></label>
      </template>
      <label>Word for word <ElInput v-model="typed.text" name="letter-text" type="textarea" :rows="4" maxlength="2000" /></label>
      <label class="tick"><input v-model="typed.may_print" type="checkbox" name="letter-print" /> may be printed</label>
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
      <ElButton native-type="submit" name="letter-keep">Keep it</ElButton>
      <button type="button" class="option" @click="open = false">not now</button>
    </form>
  </section>
</template>

<style scoped>
.letters {
  font-size: 15px;
  border-top: 1px solid var(--hair);
  margin-top: 14px;
  padding-top: 10px;
}
blockquote {
  margin: 4px 0;
  padding-left: 10px;
  border-left: 3px solid var(--hair);
  white-space: pre-line;
}
form label {
  display: block;
  margin: 6px 0;
}
.tick input {
  accent-color: var(--ink);
}
</style>
