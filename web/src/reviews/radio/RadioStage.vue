<script setup lang="ts">
import { useHelp } from '../../shared/help'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { claimed, inMode } from '../../shared/figures'
import type { Schemas } from '../../shared/server'
import { useReview, type Content } from '../review'
import PhotoStrip from '../PhotoStrip.vue'
import ClaimPicture from './ClaimPicture.vue'

const book = useReview()
const review = computed(() => book.review!)
const kept = computed(() => book.typed!)
const subject = computed(() => kept.value.now.subject)
type Claim = Schemas['RecordClaim']
type Figure = 'supply_min_v' | 'supply_v' | 'supply_max_v' | 'most_w' | 'key_s' | 'rest_s' | 'antenna_gain_dbd' | 'clocks_hz'
const supply = [
  { field: 'supply_min_v', label: 'Lowest', as: 'supply-min-v', empty: '' },
  { field: 'supply_v', label: 'Nominal', as: 'supply-v', empty: '' },
  { field: 'supply_max_v', label: 'Highest', as: 'supply-max-v', empty: '' },
] as const
const limits = [
  { field: 'key_s', label: 'Keyed at most, s', as: 'key-s', empty: '10' },
  { field: 'rest_s', label: 'then rest, s', as: 'rest-s', empty: '20' },
  { field: 'most_w', label: 'Most it may give, W', as: 'most-w', empty: 'by its claims' },
  { field: 'antenna_gain_dbd', label: 'Its antenna, dBd', as: 'antenna-gain', empty: 'not told' },
  { field: 'clocks_hz', label: 'Its clocks, MHz', as: 'clocks', empty: 'not known' },
] as const

// The lines as they are typed, with an empty one below; those kept are the ones with text.
const today = new Date().toISOString().slice(0, 10)
const blank = (): Claim => ({ text: '', source: '', read_on: today })
const claims = ref<Claim[]>([])
const typedOut = () => claims.value.filter((c) => c.text.trim() !== '').map((c) => ({ ...c }))
watch(
  () => kept.value.now.claims,
  (all) => {
    if (JSON.stringify(all) !== JSON.stringify(typedOut())) claims.value = all.map((c) => ({ ...c }))
    if (claims.value.at(-1)?.text !== '') claims.value.push(blank())
  },
  { immediate: true, deep: true },
)
const grid = ref<HTMLElement>()
const line = (i: number) => grid.value?.querySelector<HTMLInputElement>(`[name=claim-${i}]`)
onMounted(() => { if (kept.value.now.claims.length === 0) line(0)?.focus() })

function change(by: (c: Content) => void) {
  const next = { ...kept.value.now, subject: { ...subject.value } } as Content
  by(next)
  kept.value.change(next)
}
function say(field: string, value: string) {
  change((c) => ((c.subject as unknown as Record<string, unknown>)[field] = value))
}
const more = ref(false)
function region(r: number) {
  change((c) => {
    if (r === 2) delete c.subject.itu_region
    else c.subject.itu_region = r as 1 | 3
  })
}
function type(i: number, field: 'text' | 'source' | 'read_on', value: string) {
  const c = claims.value[i]!
  // A line that begins is of where the one above it was read.
  if (field === 'text' && !c.text && value && !c.source && i > 0) Object.assign(c, { source: claims.value[i - 1]!.source, read_on: claims.value[i - 1]!.read_on })
  c[field] = value
  if (claims.value.at(-1)!.text) claims.value.push(blank())
  change((all) => (all.claims = typedOut()))
}
/** A source holds for the lines below it that have none. */
function carry(from: number) {
  const { source } = claims.value[from]!
  for (const c of claims.value.slice(from + 1)) {
    if (c.source || !c.text) break
    c.source = source
  }
  change((all) => (all.claims = typedOut()))
}
function next(i: number) {
  void nextTick(() => line(i + 1)?.focus())
}

const number = (text: string) => Number(text.trim().replace(',', '.'))
/** The figure or figures typed into a field; null where they cannot be read. An antenna may have
 * less gain than a dipole; all else is above 0. */
function read(field: Figure, text: string): number | number[] | null {
  if (field === 'antenna_gain_dbd') return Math.abs(number(text)) <= 60 ? number(text) : null
  if (field === 'clocks_hz') {
    const hz = text.trim().split(/[\s;/]+|,\s+/).filter(Boolean).map((w) => Math.round(number(w) * 1e6))
    return hz.every((f) => f > 0) ? hz : null
  }
  return number(text) > 0 ? number(text) : null
}
const shown = (field: Figure) => (field === 'clocks_hz' ? subject.value.clocks_hz?.map((hz) => hz / 1e6).join(' ') : subject.value[field]?.toString()) ?? ''
const readable = (field: Figure, text: string) => text.trim() === '' || read(field, text) !== null
function figure(field: Figure, text: string) {
  kept.value.hold(field, text, readable(field, text))
  if (!readable(field, text)) return
  change((c) => {
    if (text.trim() === '') delete c.subject[field]
    else Object.assign(c.subject, { [field]: read(field, text) })
  })
}
function leave(field: Figure) {
  const text = kept.value.texts[field]
  if (text !== undefined && readable(field, text)) kept.value.hold(field, null)
}

/** What the server read each line as, matched by its text. */
function readAs(text: string): string {
  const line = review.value.claims.find((c) => c.text === text)
  if (!line) return ''
  if (line.error) return line.error
  if (line.said) return line.said
  const several = new Set(line.powers.map((p) => p.band)).size > 1
  return line.powers.map((p, i) => {
    const band = several && p.band !== line.powers[i - 1]?.band ? `${p.band} ` : p.band ? '' : i ? '' : 'every band: '
    return `${band}${p.level} ${claimed({ claimed_w: p.w, pep: p.pep })}${inMode(p.mode)}${p.adjustable && p.level === 'Full' ? ', by a knob' : ''}`
  }).join(', ')
}
/** The line round the word that is wrong in it. */
function marked(text: string): [string, string, string] | null {
  const word = review.value.claims.find((c) => c.text === text)?.word
  const at = word ? text.indexOf(word) : -1
  return at < 0 ? null : [text.slice(0, at), word!, text.slice(at + word!.length)]
}
const wrong = (text: string) => Boolean(review.value.claims.find((c) => c.text === text)?.error)

const ways = [
  { value: 'bought', label: 'bought' },
  { value: 'lent', label: 'lent' },
  { value: 'given-by-maker', label: 'given by the maker' },
  { value: 'given-by-seller', label: 'given by a seller' },
] as const
const interests = [
  { value: 'none', label: 'I neither sell it nor earn on links' },
  { value: 'sells', label: 'I sell it' },
  { value: 'earns-on-links', label: 'I earn on links to it' },
] as const
useHelp(() => ({ title: 'Radio', keys: [['2m 25/10/5', 'a claim: band, then powers from the highest level'], ['2m ?/?', 'two levels, nothing claimed'], ['Enter', 'the next claim'], ['Tab', 'from claim to claim, then from source to source']], words: ['claim', 'level', 'box', 'edition'] }))
</script>

<template>
  <div class="stage">
    <section>
      <h2>What is claimed</h2>
      <p class="soft">A band and its powers from the highest level down: <span class="mono">2m 25/10/5</span>, <span class="mono">10m AM 12 pep 35 SSB</span> <button type="button" class="link" :aria-expanded="more" @click="more = !more">{{ more ? 'fewer ways' : 'more ways' }}</button></p>
      <ul v-if="more" class="ways soft">
        <li><span class="mono">2m 5/2/1 70cm 4/2/1</span> several bands; <span class="mono">2m 70cm 5/1</span> alike; <span class="mono">5W/2W</span> every band that has no claim of its own</li>
        <li><span class="mono">2m high 25 mid 10 eco 2.5</span> levels by name; <span class="mono">70cm 5/-/1</span> without the middle one; <span class="mono">2m 1-12</span> set by a knob; <span class="mono">2m ?/?</span> nothing claimed</li>
        <li><span class="mono">GMRS main 20/5, interstitial 5, 467 0.5</span> channel groups; <span class="mono">vhf 5</span>; <span class="mono">350.5</span> a frequency outside every band</li>
        <li><span class="mono">2m sensitivity 0.25uV</span>, <span class="mono">current 1.4A</span>, <span class="mono">deviation 5kHz</span>, <span class="mono">coverage 136-174</span>, <span class="mono">frequency error 2.5ppm</span>, <span class="mono">battery 1500mAh</span>; <span class="mono">says charges by USB</span>, <span class="mono">comes with belt clip</span>; <span class="mono">2m same mid low</span> by design; <span class="mono">118-137 AM receive</span> received only</li>
      </ul>
      <!-- In the order of the page Tab goes from claim to claim, then from source to source. -->
      <div ref="grid" class="claims">
        <div v-for="(c, i) in claims" :key="`text ${i}`" class="claim" :style="{ gridRow: i + 1, gridColumn: 1 }">
          <ElInput :model-value="c.text" class="mono" :placeholder="i === 0 ? '2m 5/2/0.5' : 'another band'" :aria-label="`Claim ${i + 1}`" :name="`claim-${i}`" @update:model-value="(v: string) => type(i, 'text', v)" @keydown.enter.prevent="next(i)" />
          <p class="echo" :class="wrong(c.text) ? 'danger' : 'soft'" aria-live="polite"><template v-if="marked(c.text)"><span class="mono">{{ marked(c.text)![0] }}<u>{{ marked(c.text)![1] }}</u>{{ marked(c.text)![2] }}</span>: </template>{{ readAs(c.text) }}</p>
        </div>
        <div v-for="(c, i) in claims" :key="`source ${i}`" :style="{ gridRow: i + 1, gridColumn: 2 }">
          <ElInput :model-value="c.source" placeholder="box, or manual page" :aria-label="`Source of claim ${i + 1}`" @update:model-value="(v: string) => type(i, 'source', v)" @change="carry(i)" />
          <p v-if="c.text.trim() && !c.source?.trim()" class="echo soft">an edition needs to say where</p>
          <PhotoStrip v-if="c.text.trim()" :about="c.text.trim()" empty="its page:" />
        </div>
        <ElInput v-for="(c, i) in claims" :key="`on ${i}`" :model-value="c.read_on" type="date" :aria-label="`Claim ${i + 1} read on`" :style="{ gridRow: i + 1, gridColumn: 3 }" @update:model-value="(v: string) => type(i, 'read_on', v)" />
      </div>
      <ClaimPicture :cells="book.cells" />
    </section>
    <section class="unit">
      <h2>The unit</h2>
      <!-- What no edition is without comes first. -->
      <fieldset>
        <legend>How it was come by</legend>
        <label v-for="w in ways" :key="w.value" class="choice"><input :checked="subject.come_by === w.value" type="radio" name="come-by" :value="w.value" @change="say('come_by', w.value)" />{{ w.label }}</label>
        <ElInput :model-value="subject.come_by_note" @update:model-value="(v: string) => say('come_by_note', v)" placeholder="from whom, on what terms" aria-label="From whom, on what terms" />
      </fieldset>
      <fieldset>
        <legend>Your interest in it</legend>
        <label v-for="w in interests" :key="w.value" class="choice"><input :checked="subject.interest === w.value" type="radio" name="interest" :value="w.value" @change="say('interest', w.value)" />{{ w.label }}</label>
      </fieldset>
      <div class="pair">
        <label>Maker<ElInput :model-value="subject.maker" @update:model-value="(v: string) => say('maker', v)" name="unit-maker" /></label>
        <label>Model<ElInput :model-value="subject.model" @update:model-value="(v: string) => say('model', v)" /></label>
        <label>Serial<ElInput :model-value="subject.serial" @update:model-value="(v: string) => say('serial', v)" name="serial" /></label>
        <label>Date code<ElInput :model-value="subject.date_code" @update:model-value="(v: string) => say('date_code', v)" name="date-code" /></label>
        <label>Firmware<ElInput :model-value="subject.firmware" @update:model-value="(v: string) => say('firmware', v)" /></label>
        <label>Market it was made for<ElInput :model-value="subject.variant" @update:model-value="(v: string) => say('variant', v)" placeholder="not said" name="variant" /></label>
        <label>ITU region, for its bands
          <select name="region" :value="subject.itu_region ?? 2" @change="region(Number(($event.target as HTMLSelectElement).value))">
            <option :value="1">1: Europe, Africa, north Asia</option>
            <option :value="2">2: the Americas</option>
            <option :value="3">3: the rest of Asia, Oceania</option>
          </select>
        </label>
        <label>Changes made to it<ElInput :model-value="subject.changes" @update:model-value="(v: string) => say('changes', v)" placeholder="none" /></label>
      </div>
      <h3>Supply, V</h3>
      <div class="trio">
        <label v-for="l in supply" :key="l.field">{{ l.label }}<ElInput :model-value="kept.texts[l.field] ?? shown(l.field)" :name="l.as" :placeholder="l.empty" inputmode="decimal" @update:model-value="(v: string) => figure(l.field, v)" @blur="leave(l.field)" /><em v-if="kept.texts[l.field] && !readable(l.field, kept.texts[l.field]!)" class="danger" role="alert">no voltage: it stays here until it is</em></label>
      </div>
      <p class="soft small">A reading below the lowest cannot be held against the claim.</p>
      <div class="trio four">
        <label v-for="l in limits" :key="l.field">{{ l.label }}<ElInput :model-value="kept.texts[l.field] ?? shown(l.field)" :name="l.as" :placeholder="l.empty" inputmode="decimal" @update:model-value="(v: string) => figure(l.field, v)" @blur="leave(l.field)" /><em v-if="kept.texts[l.field] && !readable(l.field, kept.texts[l.field]!)" class="danger" role="alert">no figure: it stays here until it is</em></label>
      </div>
    </section>
  </div>
</template>

<style scoped>
.stage {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  gap: 36px;
}
.trio.four {
  grid-template-columns: repeat(2, 1fr);
}
.claims {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) 158px;
  gap: 14px;
  align-items: start;
}
.claim :deep(.mono input) {
  font: 400 20px 'IBM Plex Mono', monospace;
}
.trio em {
  font-style: normal;
  font-size: 13px;
}
.ways {
  font-size: 14px;
  line-height: 1.7;
  padding-left: 18px;
}
.echo u {
  text-decoration: underline wavy 1.5px;
  text-underline-offset: 3px;
}
select {
  display: block;
  width: 100%;
  font: inherit;
  font-size: 15px;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
  padding: 5px 0;
}
.echo {
  min-height: 22px;
  font-size: 14px;
  margin: 2px 0 4px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 22px;
  margin: 8px 0 14px;
}
.trio {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 22px;
}
label {
  font-size: 14px;
  color: var(--soft);
}
fieldset {
  border: 0;
  border-top: 1px solid var(--hair);
  margin: 14px 0 0;
  padding: 10px 0 0;
}
legend {
  font-weight: 600;
  font-size: 15px;
  padding: 0 8px 0 0;
}
.choice {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  margin: 2px 18px 6px 0;
  font-size: 16px;
  color: var(--ink);
}
.choice input {
  accent-color: var(--ink);
  width: 17px;
  height: 17px;
}
.small {
  font-size: 14px;
}
</style>
