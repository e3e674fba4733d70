<script setup lang="ts">
import { ref } from 'vue'
import { askAnew, NoAnswer, Refusal, refusal, wordsOf, type Schemas } from '../../shared/server'
import { useBench } from '../bench'

const bench = useBench()
const found = ref<Schemas['ImportFound'] | null>(null)
const trouble = ref<string[]>([])
const name = ref('')
let text = ''

async function send(dry: boolean) {
  trouble.value = []
  try {
    const response = await fetch(`/api/v1/bench/import?try=${dry}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: text }).catch(() => {
      throw new NoAnswer('The server does not answer. Bringing the same file in again is safe.')
    })
    const body: unknown = await response.json()
    if (!response.ok) throw refusal(response.status, body)
    found.value = body as Schemas['ImportFound']
    if (!dry) await askAnew('bench', 'staircase')
  } catch (e) {
    found.value = null
    trouble.value = e instanceof Refusal && e.fields.length ? e.fields.map((f) => `${f.field}: ${f.detail}`) : [wordsOf(e)]
  }
}
async function take(files: FileList | null | undefined) {
  const f = files?.[0]
  if (!f) return
  found.value = null
  name.value = f.name
  if (f.size > 4 * 2 ** 20) {
    trouble.value = [`${f.name} is over 4 MiB, the most that is read.`]
    return
  }
  text = await f.text()
  await send(true)
}
</script>

<template>
  <div class="two">
    <section>
      <h2>Take out</h2>
      <p>The whole bench, its kit with the files on it, its paths and measured stacks, as one <a href="/api/v1/bench/export" download>JSON file</a>. Its <a href="/api/v1/bench/schema" download>schema</a> says what is in it. A single item goes from its own card under Kit.</p>
      <p class="soft">{{ bench.bench?.kit.length }} things, {{ bench.bench?.paths.length }} paths, {{ bench.bench?.stacks.length === 1 ? '1 measured stack' : `${bench.bench?.stacks.length} measured stacks` }}.</p>
    </section>
    <section>
      <h2>Bring in</h2>
      <label class="drop" @dragover.prevent @drop.prevent="take($event.dataTransfer?.files)">
        <input type="file" name="bench-file" accept=".json,application/json" @change="take(($event.target as HTMLInputElement).files)" />
        <b>Drop a bench file here, or choose it</b>
        <span class="soft">What it would bring is shown before anything is written.</span>
      </label>
      <ul v-if="trouble.length" class="danger" role="alert">
        <li v-for="t in trouble" :key="t">{{ t }}</li>
      </ul>
      <div v-if="found" class="found" aria-live="polite">
        <p v-if="found.added.length"><b>New:</b> {{ found.added.join(', ') }}</p>
        <p v-if="found.changed.length"><b>Differs from what is here and would replace it:</b> {{ found.changed.join(', ') }}</p>
        <p v-if="found.same" class="soft">{{ found.same }} the same as here.</p>
        <p v-if="found.written"><b>Brought in.</b> Readings taken before stay as they were.</p>
        <ElButton v-else-if="found.added.length + found.changed.length" type="primary" name="bring-in" @click="send(false)">Bring {{ name }} in</ElButton>
        <p v-else>Nothing new in {{ name }}.</p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1.3fr;
  gap: 50px;
}
</style>
