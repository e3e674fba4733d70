<script setup lang="ts">
// Where an item listens: its address, its driver, and what it answers when it is tried, line by line.
import { computed, ref, watch } from 'vue'
import { useInstruments } from '../../shared/instruments'
import { remember } from '../../shared/remember'
import { api, ask, askAnew, refusal, wordsOf, type Schemas } from '../../shared/server'
import type { Kit } from '../bench'

const props = defineProps<{ item: Kit }>()
const known = useInstruments()
const fits = computed(() => known.drives(props.item.kind))
// What is typed of it stays over reloads and a dead server, until it is kept.
const typed = remember(`address ${props.item.id}`, '')
const address = computed({ get: () => typed.value || (props.item.socket?.address ?? ''), set: (v: string) => (typed.value = v || ' ') })
const driver = ref(props.item.socket?.driver ?? '')
const own = remember(`driver ${props.item.id}`, '') // a driver that is being worked on, as text
const wrong = ref('')
const trying = ref(false)
const tried = ref<Schemas['Tried'] | null>(null)
const all = ref(false) // every line that was sent and received
watch(fits, (f) => (driver.value ||= f[0]?.id ?? ''), { immediate: true })
const chosen = computed(() => fits.value.find((d) => d.id === driver.value))
const kept = computed(() => (props.item.socket?.address ?? '') === address.value.trim() && (!address.value.trim() || props.item.socket?.driver === driver.value))

async function keep(): Promise<boolean> {
  wrong.value = ''
  try {
    await ask(api.PUT('/api/v1/kit/{id}/socket', { params: { path: { id: props.item.id } }, body: { address: address.value.trim(), driver: driver.value } }))
    await askAnew('bench')
    typed.value = ''
    return true
  } catch (e) {
    wrong.value = wordsOf(e)
    return false
  }
}
async function tryIt() {
  if (trying.value || !address.value.trim() || (!kept.value && !(await keep()))) return
  trying.value = true
  tried.value = null
  wrong.value = ''
  try {
    tried.value = await known.connect((aware) => ask(api.POST('/api/v1/kit/{id}/try', { params: { path: { id: props.item.id }, query: { aware } }, body: { driver: own.value } })))
  } catch (e) {
    wrong.value = wordsOf(e)
  } finally {
    trying.value = false
  }
}
// A supply or a generator is set from here; what could hurt is asked first.
const handles: Record<string, [name: string, label: string][]> = { supply: [['volts', 'V'], ['amps', 'A at most']], 'signal-generator': [['frequency_hz', 'Hz'], ['level_dbm', 'dBm']] }
const hands = computed(() => handles[props.item.kind] ?? [])
const wanted = ref<Record<string, string>>({})
const hurts = ref<string[]>([])
const pending = ref<Record<string, string>>({})
const told = ref<Schemas['InstrumentsDialled'][]>([])
async function set(settings: Record<string, string>, confirmed = false) {
  wrong.value = ''
  hurts.value = []
  pending.value = Object.fromEntries(Object.entries(settings).map(([k, v]) => [k, v.trim().replace(',', '.')]).filter(([, v]) => v))
  try {
    const got = await known.connect((aware) => ask(api.POST('/api/v1/kit/{id}/set', { params: { path: { id: props.item.id }, query: { aware } }, body: { settings: pending.value, confirmed } })))
    hurts.value = got.hurts
    told.value = got.dialled
  } catch (e) {
    wrong.value = wordsOf(e)
  }
}
async function begin() {
  own.value = await (await fetch(`/api/v1/drivers/${driver.value}`)).text()
}
async function load(f: File | undefined) {
  if (f) own.value = await f.text()
}
async function bringIn() {
  wrong.value = ''
  try {
    const response = await fetch('/api/v1/drivers', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: own.value })
    const got = (await response.json()) as Driver
    if (!response.ok) throw refusal(response.status, got)
    await known.again()
    driver.value = got.id
    own.value = ''
    await keep()
  } catch (e) {
    wrong.value = wordsOf(e)
  }
}
type Driver = Schemas['DriverView']
</script>

<template>
  <section class="socket">
    <h4>by a socket</h4>
    <div>
      <p v-if="known.off" class="soft">This server connects to no instrument (TALLOAK_INSTRUMENTS=off).</p>
      <div class="line">
        <label><span>address</span><ElInput v-model="address" name="address" placeholder="none; such as 192.168.1.40:5025" @change="keep" @keydown.enter.prevent="tryIt" /></label>
        <label><span>driver</span><ElSelect v-model="driver" aria-label="Driver" placeholder="none for this kind" @change="address.trim() && keep()"><ElOption v-for="d in fits" :key="d.id" :value="d.id" :label="d.own ? `${d.name} (own)` : d.name" /></ElSelect></label>
        <ElButton name="try" :disabled="trying || known.off || !address.trim()" @click="tryIt">{{ trying ? 'Asking…' : own ? 'Try this driver' : 'Try it' }}</ElButton>
      </div>
      <p v-if="chosen?.says" class="soft small">{{ chosen.says }}<template v-if="chosen.cannot.length"> Not: {{ chosen.cannot.join('; ') }}.</template></p>
      <p class="small">
        <button v-if="!own" type="button" class="link" name="own-driver" @click="begin">a driver of your own, from this one</button>
        <label v-if="!own" class="upload">or a file <input type="file" name="driver" accept=".json,application/json" @change="load(($event.target as HTMLInputElement).files?.[0])" /></label>
      </p>
      <p v-if="hands.length && item.socket" class="small set" data-set>
        <label v-for="[name, label] in hands" :key="name"><input v-model="wanted[name]" :name="`set-${name}`" inputmode="decimal" /> {{ label }}</label>
        <ElButton size="small" name="set" @click="set(wanted)">Set</ElButton>
        <ElButton size="small" name="output-on" @click="set({ ...wanted, output: 'on' })">Output on</ElButton>
        <ElButton size="small" name="output-off" @click="set({ output: 'off' })">Output off</ElButton>
        <span v-for="d in told" :key="d.what"><span class="soft">{{ d.what }}</span> {{ d.told }} </span>
      </p>
      <div v-if="hurts.length" class="hurts" role="alert" data-hurts>
        <p><b>Before it is sent:</b> {{ hurts.join('; ') }}. Is what hangs on it made for that, and is nothing keyed into it?</p>
        <ElButton size="small" name="confirm-hurts" @click="set(pending, true)">It may be sent</ElButton> <button type="button" class="link" @click="hurts = []">no</button>
      </div>
      <template v-if="own">
        <textarea v-model="own" class="mono" name="driver-text" rows="12" spellcheck="false" aria-label="Driver" />
        <p class="small"><ElButton size="small" name="bring-in" @click="bringIn">Bring it in</ElButton> <button type="button" class="link" @click="own = ''">leave it</button> <span class="soft">give it an id of its own; its shape is in <a href="/api/v1/drivers/schema" download>driver.schema.json</a></span></p>
      </template>
      <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
      <div v-if="tried" class="tried" data-tried>
        <p><b>{{ tried.identity || 'no answer' }}</b></p>
        <p v-if="tried.trouble" class="danger">{{ tried.trouble }}</p>
        <ul>
          <li v-for="l in tried.lines" :key="l.what" :class="{ danger: !l.fine }"><span>{{ l.what }}</span> {{ l.fine ? l.says : `does not work: ${l.says}` }}</li>
        </ul>
        <button type="button" class="link" name="lines" :aria-expanded="all" @click="all = !all">{{ all ? 'fewer lines' : `every line, ${tried.spoken.length} sent and received` }}</button>
        <ol v-if="all" class="mono spoken">
          <li v-for="(s, n) in tried.spoken" :key="n"><span class="soft">{{ s.sent ? 'sent' : `after ${s.ms.toFixed(1)} ms` }}</span> {{ s.text }}</li>
        </ol>
      </div>
    </div>
  </section>
</template>

<style scoped>
.socket {
  display: grid;
  grid-template-columns: 110px 1fr;
  border-top: 1px solid var(--hair);
  padding: 6px 0 8px;
}
h4 {
  margin: 0;
  font-size: 15px;
}
.line {
  display: grid;
  grid-template-columns: 1fr 1.4fr auto;
  gap: 24px;
  align-items: end;
}
label > span:first-child {
  display: block;
  font-size: 14px;
  color: var(--soft);
}
.small {
  font-size: 14px;
  margin: 4px 0;
}
.set {
  display: flex;
  gap: 8px 16px;
  align-items: baseline;
}
.set input {
  width: 90px;
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
.hurts {
  border-left: 4px solid var(--rust);
  padding: 4px 12px;
}
.upload {
  margin-left: 18px;
}
textarea {
  width: 100%;
  box-sizing: border-box;
  font-size: 13px;
  color: var(--ink);
  background: transparent;
  border: 1px solid var(--hair);
}
.tried ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
  columns: 2;
  font-size: 14px;
}
.tried ul span {
  display: inline-block;
  min-width: 130px;
  color: var(--soft);
}
.tried p {
  margin: 4px 0;
}
.spoken {
  font-size: 13px;
  max-height: 260px;
  overflow: auto;
}
.spoken span {
  display: inline-block;
  min-width: 110px;
}
</style>
