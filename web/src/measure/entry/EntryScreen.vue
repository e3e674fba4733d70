<script setup lang="ts" generic="V extends Figure">
// The screen of a kind of one figure: its slots hold what is its own. Read from a metre away, and
// driven from the line.
import { useHelp } from '../../shared/help'
import './entry.css'
import BoxPicker from '../../reviews/BoxPicker.vue'
import StandingWords from '../../shared/StandingWords.vue'
import { words } from '../../shared/figures'
import type { Figure, useEntry } from './useEntry'

const props = defineProps<{ entry: ReturnType<typeof useEntry<V>>; placeholder: string; title: string; none: string; keys?: Record<string, () => void> }>()
const { book, whole, ready, bands, at, cell, text, line, dial, dialled, here, isDone, live, shown, waiting, said, outside, retune, command, log, say } = props.entry
useHelp(() => ({ title: 'This test, on the empty line', keys: [['=', 'same again'], ['f ⏎', 'frequency'], ['↑ ↓', 'another band'], ['? …', 'a remark']], words: ['reading', 'claim', 'at the connector', 'k = 2', 'void'] }))
</script>

<template>
  <p v-if="bands.length === 0" class="soft">Nothing to measure yet: <RouterLink :to="`/reviews/${book.id}/radio`">type a claim</RouterLink> such as <span class="mono">2m 5/1</span> first.</p>
  <div v-else-if="cell" class="stage one-figure">
    <section>
      <BoxPicker v-if="!whole" v-model="at" :cells="bands" :done="isDone"><span class="soft"><kbd>↑</kbd> <kbd>↓</kbd></span></BoxPicker>
      <div class="what">
        <slot v-if="whole" name="whole" />
        <label v-else class="frequency"><input ref="dial" :value="dialled" name="frequency" aria-label="Frequency, MHz" inputmode="decimal" @focus="dial?.select()" @change="retune" @keydown.enter.prevent="line?.focus()" /><small>MHz</small></label>
        <div class="how"><slot name="how" /></div>
      </div>
      <p v-if="outside" class="doubt" data-outside>{{ outside }}</p>
      <div class="result" :class="{ idle: !live }">
        <div class="figure" data-testid="figure"><slot name="figure" :shown="shown" /></div>
        <div class="beside"><slot v-if="shown" name="beside" :shown="shown" /><span v-if="shown && !live" class="soft">last logged</span></div>
      </div>
      <slot v-if="shown" name="picture" :shown="shown" />
      <p v-if="shown && !shown.counts" class="doubt void"><b>Does not count:</b> {{ words(shown.why_not) }}</p>
      <p v-if="live?.contradicts" class="doubt" data-contradicts>Differs from {{ live.contradicts }} by more than both uncertainties: is one of them wrong?</p>
      <form class="entry" @submit.prevent="log">
        <!-- It grows where much is typed: its beginning never scrolls away. -->
        <textarea ref="line" v-model="text" class="mono" name="entry" rows="1" aria-label="Entry line" autocomplete="off" spellcheck="false" :placeholder="placeholder" @keydown="command($event, keys)" @beforeinput="(e) => (e as InputEvent).inputType === 'insertLineBreak' && e.preventDefault()" @input="text = text.replaceAll('\n', ' ')" />
        <ElButton type="primary" native-type="submit" :disabled="!text.trim() || !ready()">Log it <kbd>Enter</kbd></ElButton>
      </form>
      <p class="echo" :class="{ danger: said }" aria-live="polite"><template v-if="said">{{ said }}</template><slot v-else-if="live" name="echo" :shown="live" /></p>
      <p v-if="waiting.length" class="soft going">on its way: <span v-for="w in waiting" :key="w.id" class="mono" data-waiting>{{ w.line?.text }} </span></p>
      <p class="keys soft"><slot name="keys" /><span><kbd>=</kbd> same again</span> <span v-if="!whole"><kbd>f ⏎</kbd> frequency</span> <span><kbd>?</kbd> then a remark</span></p>
    </section>
    <aside>
      <slot name="aside" />
      <div class="log">
        <h3>{{ title }}</h3>
        <p v-if="here.length === 0" class="soft">{{ none }}</p>
        <ol reversed>
          <li v-for="m in [...here].reverse()" :key="m.id" :class="{ out: !m.counts }">
            <slot name="row" :of="m as V" /> <span class="mono">{{ m.text }}</span>
            <slot name="under" :of="m as V" />
            <p class="soft">{{ m.remark }}<template v-if="!m.counts">{{ m.remark ? '; ' : '' }}{{ m.why_not }}</template></p>
            <p v-if="m.contradicts" class="doubt-line">differs from <span class="mono">{{ m.contradicts }}</span> by more than both uncertainties</p>
            <p v-if="m.standing === 'explained'" class="soft">explained: {{ m.standing_reason }}</p>
            <StandingWords :key="m.standing" :about="m.id" :standing="m.standing" :contradicts="!!m.contradicts" @say="(standing, reason) => say(m.id, standing, reason)" />
          </li>
        </ol>
        <a v-if="here.length" :href="`/api/v1/reviews/${book.id}/measure/${entry.kind}/export`" download>all of it, CSV</a>
      </div>
    </aside>
  </div>
</template>
