<script setup lang="ts">
// The bench in one line: a thing with its figures, or a path of owned things. What was understood
// stands under it; what nobody said is typical and marked so.
import { computed, nextTick, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useLine } from '../../shared/lines'
import { api, ask, newKey, NoAnswer, useAsked, wordsOf, type Schemas } from '../../shared/server'
import { untilAnswered, useBench } from '../bench'

type Line = Schemas['BenchLine']
const props = defineProps<{ shows: 'things' | 'paths' }>()
const emit = defineEmits<{ kept: [id: string] }>()
const bench = useBench()
const router = useRouter()
const text = useLine('', 'bench', () => bench.practice)
const field = ref<HTMLInputElement>()
const trouble = ref('')
const keeping = ref('')
const made = ref<{ id: string; name: string; path: boolean; says: string } | null>(null)

const read = (line: string, practice: string): Promise<Line> => ask(api.GET('/api/v1/lines/bench', { params: { query: { text: line, practice } } }))
const asked = useAsked<[string, string], Line>('bench line', () => (text.value.trim() ? ([text.value, bench.practice] as const) : null), read, (was, now) => was[1] === now[1])
const understood = computed(() => (text.value.trim() ? asked.answer.value : null))
const said = computed(() => trouble.value || (text.value.trim() ? asked.trouble.value : ''))

/** Keeps what the line says, and leaves it free for the next; what is typed meanwhile stays. */
async function keep() {
  const line = text.value
  if (!line.trim() || keeping.value) return
  trouble.value = ''
  keeping.value = line
  try {
    const meant = await read(line, bench.practice)
    const id = newKey()
    if (meant.spec) {
      const kit = await untilAnswered(() => ask(api.PUT('/api/v1/kit/{id}', { params: { path: { id } }, body: { version: 0, name: meant.name, spec: meant.spec!, retired: false } })))
      bench.keepKit(kit)
    } else {
      const path = await untilAnswered(() => ask(api.PUT('/api/v1/paths/{id}', { params: { path: { id } }, body: { version: 0, name: meant.name, socket: '', parts: meant.parts ?? [], applied_offset_db: 0 } })))
      bench.keepPath(path)
    }
    if (text.value === line) text.value = ''
    made.value = { id, name: meant.name, path: !meant.spec, says: meant.says.join('; ') }
    if (!meant.spec && props.shows === 'paths') await router.push(`/bench/paths/${id}`)
    emit('kept', id)
  } catch (e) {
    trouble.value = e instanceof NoAnswer ? 'The server does not answer: what you typed stays.' : wordsOf(e)
  } finally {
    keeping.value = ''
    void nextTick(() => field.value?.focus({ preventScroll: true }))
  }
}
onMounted(() => { if (document.activeElement === document.body || document.activeElement?.tagName === 'MAIN') field.value?.focus({ preventScroll: true }) })
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <form class="line" @submit.prevent="keep">
    <input ref="field" v-model="text" class="mono" name="bench-line" aria-label="A thing, or a path, in one line" autocomplete="off" spellcheck="false" :placeholder="shows === 'things' ? 'pad 40dB 10W 3GHz 0.5' : 'jumper, pad 40, analyzer'" @input="trouble = ''" />
    <ElButton type="primary" native-type="submit" name="keep-line" :disabled="!understood || !!keeping">{{ understood && !understood.spec ? 'Keep this path' : 'Keep it' }} <kbd>Enter</kbd></ElButton>
    <p v-if="said" class="danger echo" role="alert" data-line-trouble>{{ said }}</p>
    <p v-else-if="understood" class="echo" aria-live="polite" data-understood>
      <b>{{ understood.name }}</b><template v-if="understood.spec">: {{ understood.says.join(', ') || 'nothing said of it' }}<template v-if="understood.typical.length">; <i class="soft">typical, until you say otherwise: {{ understood.typical.join(', ') }}</i></template></template>
      <template v-else>: {{ understood.says.join(' → ') }}</template>
    </p>
    <p v-else-if="made" class="echo soft" role="status" data-kept-line>Kept: {{ made.name }}. <RouterLink v-if="made.path && shows === 'things'" :to="`/bench/paths/${made.id}`">See its levels</RouterLink></p>
    <p v-else class="echo soft">
      A thing: what it is, then its figures, <span class="mono">inline meter 100-500MHz 5% 15/60W</span>, <span class="mono">load 50W 1GHz</span>, <span class="mono">coax rg-58 1.5m</span>, <span class="mono">analyzer 100k-960M max +10 floor -100 rbw 10k</span>.
      A path: things you own, from the radio on, <span class="mono">jumper, pad 40, analyzer</span>.
    </p>
  </form>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 14px;
  align-items: end;
  margin-bottom: 12px;
}
input {
  font-size: 24px;
  width: 100%;
  border: 0;
  border-bottom: 2px solid var(--ink);
  background: transparent;
  color: var(--ink);
  padding: 2px 0;
}
input:focus-visible {
  outline: none;
  border-bottom-width: 4px;
  margin-bottom: -2px;
}
input::placeholder {
  color: var(--soft);
  opacity: 0.55;
}
.echo {
  grid-column: 1 / -1;
  min-height: 44px;
  margin: 4px 0 0;
  font-size: 15px;
}
</style>
