<script setup lang="ts">
// A look typed as one reads it aloud, drawn at once.
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { db, dbm, fine, megahertz, watts, words } from '../../shared/figures'
import LookPicture, { type Taken, type Work } from './LookPicture.vue'
import { useHere } from '../../shared/here'
import { useLine } from '../../shared/lines'
import { NoAnswer, pictures, refusal, useAsked, type Schemas } from '../../shared/server'

type View = Schemas['EmissionsSweepView']
const props = defineProps<{ review: string; box: string; query: Record<string, string>; look: string; told: string[]; wrong: string; carrier: number }>()
const emit = defineEmits<{ take: [text: string, picture: File | null]; read: [toleranceHz: number, readingDB: number]; adds: [db: string]; key: [key: string] }>()
const text = useLine(props.review, 'emissions', () => props.box)
const line = ref<HTMLTextAreaElement>()
const focus = () => void nextTick(() => line.value?.focus())
/** Takes the path's loss for what the screen adds, where that is what the shown carrier asks for. */
function offer() {
  if (view.value?.doubtful && view.value.loss_db != null) emit('adds', String(Number(view.value.loss_db.toFixed(2))))
}
defineExpose({ focus, offer })

const at = computed(() => `/api/v1/reviews/${props.review}/measure/emissions/preview?${new URLSearchParams(props.query)}`)
const asked = useAsked<[string, string], View>('look', () => (props.look ? ([at.value, props.look] as const) : null), async (url, body) => {
  let response: Response
  try {
    response = await fetch(url, { method: 'POST', headers: { 'Content-Type': 'text/plain' }, body })
  } catch {
    throw new NoAnswer()
  }
  const got = (await response.json()) as View
  if (!response.ok) throw refusal(response.status, got)
  return got
}, (was, now) => was[0] === now[0])
const view = computed(() => (props.look ? asked.answer.value : null))
const trouble = computed(() => props.wrong || asked.trouble.value)
const agrees = computed(() => {
  const m = view.value?.against_meter
  return !m ? '' : m.agrees ? `agrees with the meter, ${watts(m.w)}` : `${db(m.off_db)} from the meter’s ${watts(m.w)}`
})

const W = 820
const H = 200
const x = (f: number) => 64 + ((f - view.value!.start_hz) / (view.value!.stop_hz - view.value!.start_hz)) * (W - 130)
const sticks = computed(() => view.value?.picture.filter((b) => b.high_dbm != null) ?? [])
const ground = computed(() => view.value?.picture.filter((b) => b.noise_dbm != null) ?? [])
const top = computed(() => Math.max(0, ...sticks.value.map((b) => b.high_dbm!)) + 8)
const bottom = computed(() => Math.min(...ground.value.map((b) => b.noise_dbm!), ...sticks.value.map((b) => b.high_dbm!), 0) - 10)
const y = (l: number) => 30 + ((top.value - l) / (top.value - bottom.value)) * (H - 90)
const name = (f: number) => {
  const n = Math.round(f / props.carrier)
  return n >= 1 && Math.abs(f - n * props.carrier) < 0.001 * f ? (n === 1 ? 'carrier' : `${n} f`) : megahertz(f)
}
/** Labels that would stand in each other stand above each other. */
const lifts = computed(() => sticks.value.reduce<number[]>((out, b, i) => [...out, i > 0 && x(b.frequency_hz) - x(sticks.value[i - 1]!.frequency_hz) < 75 ? (out[i - 1]! + 16) % 48 : 0], []))
const lift = (i: number) => lifts.value[i]!
// From a picture of the screen: its peaks become the text, the picture its evidence.
const picture = ref<File | null>(null)
const work = ref<Work | null>(null) // what was clicked and typed at it
const evidence = ref<File | null>(null)
const shelf = `${props.review} ${props.box}`
let known = false
void pictures.get(shelf).then((left) => {
  const was = left as { picture: File | null; work: Work | null; evidence: File | null } | undefined
  if (was && !picture.value && !evidence.value) {
    picture.value = was.picture
    work.value = was.work
    evidence.value = text.value.trim() ? was.evidence : null
  }
  known = true
})
watch([picture, work, evidence], () => {
  if (!known) return
  const nothing = !picture.value && !evidence.value
  void pictures.put(shelf, nothing ? null : { picture: picture.value, work: JSON.parse(JSON.stringify(work.value)) as Work | null, evidence: evidence.value })
}, { deep: true })
const mistaken = ref('') // with the picture
function choose(f: File | undefined) {
  mistaken.value = ''
  if (!f) return
  if (!/^image\/(png|jpeg)$/.test(f.type) || f.size > 10 * 1024 * 1024) mistaken.value = `“${f.name}” is no PNG or JPEG of at most 10 MB.`
  else {
    picture.value = f
    work.value = null
  }
}
const here = useHere()
useEventListener(window, 'paste', (e: ClipboardEvent) => here.value && choose([...(e.clipboardData?.files ?? [])].find((f) => f.type.startsWith('image/'))))
function taken(t: Taken) {
  text.value = t.text
  evidence.value = t.picture
  picture.value = null
  emit('read', t.toleranceHz, t.readingDB)
  focus()
}
watch(text, (t) => {
  if (t.trim() !== '') return
  evidence.value = null
  emit('read', 0, 0)
})
// Enter keeps it and breaks no line, Shift Enter does.
const broken = ref(false)
function oneLine(e: Event) {
  if ((e as InputEvent).inputType === 'insertLineBreak' && !broken.value) e.preventDefault()
  broken.value = false
}
/** On the empty line a letter that no look begins with is a command. */
function command(e: KeyboardEvent) {
  if (e.key === 'Enter' && !e.ctrlKey && !e.metaKey && !e.altKey) {
    if (e.shiftKey) broken.value = true
    else {
      e.preventDefault()
      keep()
    }
    return
  }
  if (text.value !== '' || e.ctrlKey || e.metaKey || e.altKey || !['c', 'ArrowDown', 'ArrowUp'].includes(e.key)) return
  e.preventDefault()
  emit('key', e.key)
}
function keep() {
  if (text.value.trim() && !asked.refused.value && !props.wrong) emit('take', text.value, evidence.value)
}
</script>

<template>
  <div class="look">
    <textarea ref="line" v-model="text" name="look" class="mono" rows="1" aria-label="A look, or how the instrument is set" spellcheck="false" autocomplete="off" placeholder="30-1000 floor -70  2h -62  205 -66  rbw 100k peak max" @keydown="command" @beforeinput="oneLine" />
    <p v-if="trouble" class="danger echo" role="alert" data-look-trouble>{{ trouble }}</p>
    <p v-else-if="told.length" class="echo" data-told-line><template v-if="!look">Enter keeps it for what comes: </template><b>{{ words(told.join(', ')) }}</b></p>
    <p v-else-if="!text.trim()" class="echo soft">The range in MHz, the floor, each peak as the screen shows it; how it is set, in the same line. Short: <span class="mono">30-1000 -70 h-7.4-62?-69 205-66</span>, the carrier and its harmonics in order, <span class="mono">?</span> for one not read.</p>
    <slot />
    <LookPicture v-if="picture" v-model="work" :picture="picture" @take="taken" @leave="picture = null" />
    <p v-if="evidence" class="soft small">Read off {{ evidence.name }}, which is kept with it.</p>
    <p v-if="mistaken" class="danger" role="alert">{{ mistaken }}</p>
    <div v-if="view && !trouble" class="seen">
      <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="`A look from ${megahertz(view.start_hz)} to ${megahertz(view.stop_hz)}: ${sticks.map((b) => `${name(b.frequency_hz)} ${dbm(b.high_dbm)}`).join(', ')}`" data-look>
        <polygon v-if="ground.length" class="ground" :points="`${x(ground[0]!.frequency_hz)},${H - 50} ${ground.map((b) => `${x(b.frequency_hz)},${y(b.noise_dbm!)}`).join(' ')} ${x(ground.at(-1)!.frequency_hz)},${H - 50}`" />
        <line class="base" x1="64" :x2="W - 66" :y1="H - 50" :y2="H - 50" />
        <g v-for="(b, i) in sticks" :key="b.frequency_hz">
          <line class="stick" :x1="x(b.frequency_hz)" :x2="x(b.frequency_hz)" :y1="H - 50" :y2="y(b.high_dbm!)" />
          <text class="on" :x="x(b.frequency_hz)" :y="y(b.high_dbm!) - 4 - lift(i)" text-anchor="middle">{{ dbm(b.high_dbm) }}</text>
          <text :x="x(b.frequency_hz)" :y="H - 34 + lift(i) * 0.7" text-anchor="middle">{{ name(b.frequency_hz) }}</text>
        </g>
        <text x="58" :y="H - 52" text-anchor="end">{{ megahertz(view.start_hz) }}</text><text :x="W - 60" :y="H - 52">{{ megahertz(view.stop_hz) }}</text>
      </svg>
      <div v-if="view.carrier_dbm != null" class="implied" :class="{ danger: view.doubtful }" data-implied>
        <b>{{ watts(view.carrier_w) }}</b>
        <span>carrier {{ dbm(view.carrier_dbm) }} at the connector<template v-if="agrees">: {{ agrees }}</template></span>
        <p class="soft small">{{ dbm(view.input_dbm) }} at the input: shown, plus {{ view.loss_db == null ? 'an unknown loss' : fine(view.loss_db) }} of path, less {{ fine(view.applied_offset_db) }} that the screen adds</p>
        <p v-if="view.doubtful" role="alert">{{ words(view.void) }} <ElButton v-if="view.loss_db != null" size="small" name="screen-adds-loss" @click="offer">The screen adds {{ fine(view.loss_db) }} <kbd>Esc</kbd> <kbd>o</kbd></ElButton></p>
      </div>
    </div>
    <p class="ways">
      <ElButton v-if="text.trim()" type="primary" name="keep-look" @click="keep">{{ look ? 'Keep this look' : 'It is set so' }} <kbd>Enter</kbd></ElButton>
      <slot name="ways" />
      <label v-if="!picture" class="choose" @dragover.prevent @drop.prevent.stop="choose($event.dataTransfer?.files[0])">a picture of the screen: drop it, paste it, or <span class="link">choose</span><input type="file" name="screen" accept="image/png,image/jpeg" @change="choose(($event.target as HTMLInputElement).files?.[0])" /></label>
    </p>
  </div>
</template>

<style scoped>
.seen {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(220px, 1fr);
  gap: 20px;
  align-items: start;
}
.implied b {
  display: block;
  font-size: 44px;
  line-height: 1.15;
  font-weight: 600;
}
.implied {
  font-size: 18px;
  border-left: 4px solid var(--hair);
  padding-left: 12px;
}
.implied.danger {
  border-color: var(--rust);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  align-items: center;
  margin: 6px 0;
  font-size: 15px;
}
textarea {
  display: block;
  width: 100%;
  box-sizing: border-box;
  font-size: 28px;
  line-height: 1.25;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 2px solid var(--ink);
  padding: 4px 0;
  resize: none;
  field-sizing: content;
}
textarea:focus-visible {
  outline: none;
  border-bottom-width: 4px;
  margin-bottom: -2px;
}
textarea::placeholder {
  color: var(--soft);
  opacity: 0.55;
}
.echo {
  min-height: 22px;
  margin: 4px 0;
  font-size: 15px;
}
.choose input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.link {
  text-decoration: underline;
  cursor: pointer;
}
.choose:focus-within .link {
  outline: 2px solid var(--ink);
}
.small {
  font-size: 14px;
  margin: 4px 0;
}
svg {
  width: 100%;
  height: auto;
}
.ground {
  fill: var(--noise);
}
.base {
  stroke: var(--soft);
}
.stick {
  stroke: var(--ink);
  stroke-width: 2.5;
}
text {
  font-size: 13px;
  fill: var(--soft);
}
.on {
  fill: var(--ink);
}
@media (max-width: 820px) {
  .seen {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
