<script setup lang="ts">
import { Copy, Group, Plus, Trash2, Ungroup } from '@lucide/vue'
import { computed } from 'vue'
import type { Act, Blend, Gift, Paint } from '../../generated/types'
import { RATIO_WHOLE, toRatio } from '../../measures'
import { useBench } from '../../stores/bench'
import ChoiceField from '../parts/ChoiceField.vue'
import MeasureField from '../parts/MeasureField.vue'
import PaintPick from '../parts/PaintPick.vue'
import ShareField from '../parts/ShareField.vue'
import BackingFields from './BackingFields.vue'
import CombineFields from './CombineFields.vue'
import ContrastLine from './ContrastLine.vue'
import DrawingFields from './DrawingFields.vue'
import EffectFields from './EffectFields.vue'
import LineFields from './LineFields.vue'
import LineUp from './LineUp.vue'
import OrderFields from './OrderFields.vue'
import OutlineFields from './OutlineFields.vue'
import PictureFields from './PictureFields.vue'
import PlaceFields from './PlaceFields.vue'
import StackFields from './StackFields.vue'
import TieFields from './TieFields.vue'
import TypeFields from './TypeFields.vue'

/** The card of what is selected: only what it has. */
const emit = defineEmits<{ remove: []; zoom: [factor: number] }>()
const bench = useBench()

const only = computed(() => bench.only)
const many = computed(() => bench.selected)
const first = computed(() => many.value[0] ?? null)
const titles: Record<string, string> = {
  headline: 'Headline', support: 'Second line', when: 'When', where: 'Where', detail: 'Text', price: 'Price', action: 'Call to action', contact: 'Contact', smallPrint: 'Small print',
  mark: 'Mark', mainPicture: 'Main picture', picture: 'Picture', panel: 'Panel', ornament: 'Ornament',
}
const title = computed(() => (only.value ? (titles[only.value.part] ?? 'Item') : `${many.value.length} items`))
const shared = computed(() => (only.value ? bench.shownIn(only.value.item.kin) : 0))
let gesture = ''

function begin() {
  gesture = `card-${crypto.randomUUID()}`
}

/** Does something to all that is selected; while a hand is still at it, it stays one step. */
function change(act: Act, continuing = false) {
  if (bench.selection.length) void bench.act(act, continuing ? gesture : undefined)
}
const items = () => [...bench.selection]

function setFill(fill: Paint | null, live: boolean) {
  if (fill?.kind === 'flat') bench.lastTint = fill.tint
  change({ act: 'setFill', items: items(), fill }, live)
}

/** The same colour as something else on the sheet, from now on. */
function sameAs() {
  const items = [...bench.selection]
  bench.point({ say: 'Point at the item whose colour it takes and keeps.', what: 'item', take: (to) => { bench.selection = items; void bench.act({ act: 'linkColour', items, to }) } })
}
const scale = computed(() => first.value?.item.place.scale ?? RATIO_WHOLE)
const isWords = computed(() => many.value.length > 0 && many.value.every((p) => p.content.kind === 'words'))
const inGroup = computed(() => many.value.some((p) => (p.item.groups ?? []).length > 0))
const giftNames: Record<Gift, string> = {
  line: 'Line', shadow: 'Shadow', innerShadow: 'Inner shadow', relief: 'Relief', highlight: 'Highlight', button: 'Button', frost: 'Blur what lies behind',
}
/** What an item may still be given; only what it does not have. */
const offers = computed(() => (first.value ? (bench.drawn.get(first.value.item.id)?.gifts ?? []) : []))

const blends: { value: Blend; name: string }[] = [
  { value: 'normal', name: 'Covers' }, { value: 'multiply', name: 'Multiply' }, { value: 'screen', name: 'Screen' }, { value: 'overlay', name: 'Overlay' }, { value: 'darken', name: 'Darken' }, { value: 'lighten', name: 'Lighten' },
  { value: 'colorDodge', name: 'Colour dodge' }, { value: 'colorBurn', name: 'Colour burn' }, { value: 'hardLight', name: 'Hard light' }, { value: 'softLight', name: 'Soft light' }, { value: 'difference', name: 'Difference' },
  { value: 'exclusion', name: 'Exclusion' }, { value: 'hue', name: 'Hue' }, { value: 'saturation', name: 'Saturation' }, { value: 'color', name: 'Colour' }, { value: 'luminosity', name: 'Luminosity' },
]

const hasFill = computed(() => many.value.length > 0 && many.value.every((p) => p.content.kind !== 'picture' && p.content.kind !== 'drawing'))

/** Releases the look and words of this item from the other pieces, or shares them again. */
function release(own: boolean) {
  const p = only.value
  if (!p) return
  void bench.act({ act: 'release', item: p.item.id, own })
}
</script>

<template>
  <aside class="card scroll" aria-label="What is selected" @pointerdown.capture="begin">
    <template v-if="first">
      <header>
        <h2>{{ title }}</h2>
        <button v-if="many.length > 1" class="tool" aria-label="Make it one group" title="Make it one group" @click="bench.act({ act: 'group', items: bench.selection })"><Group :size="16" /></button>
        <button v-if="inGroup" class="tool" aria-label="Dissolve the group" title="Dissolve the group" @click="bench.act({ act: 'ungroup', items: bench.selection })"><Ungroup :size="16" /></button>
        <button class="tool" aria-label="Duplicate" title="Duplicate" @click="bench.duplicate()"><Copy :size="16" /></button>
        <button class="tool" aria-label="Remove" title="Remove" @click="emit('remove')"><Trash2 :size="16" /></button>
      </header>
      <LineUp />
      <StackFields />
      <OrderFields />
      <CombineFields />
      <div v-if="only && shared > 1" class="sharing">
        <p>{{ only.ownContent || only.ownLook ? 'On its own: changes stay in this piece.' : `Words, picture and look are shared by ${shared} pieces.` }}</p>
        <button class="link" @click="release(!(only.ownContent || only.ownLook))">{{ only.ownContent || only.ownLook ? 'Share again' : 'Only here from now on' }}</button>
      </div>
      <TypeFields v-if="isWords" :items="many" />
      <PictureFields v-if="only && only.content.kind === 'picture'" :plain="only" @zoom="emit('zoom', $event)" />
      <DrawingFields v-if="only && only.content.kind === 'drawing'" :key="only.item.id" :plain="only" />
      <OutlineFields v-if="only && (only.content.kind === 'shape' || only.content.kind === 'picture')" :key="`outline-${only.item.id}`" :plain="only" />
      <section>
        <h3>Colour</h3>
        <PaintPick v-if="hasFill" :label="first.content.kind === 'words' ? 'Letters' : 'Fill'" :paint="first.look.fill" :none-label="first.content.kind === 'words' ? undefined : 'no fill'" @live="setFill($event, true)" @done="setFill($event, false)" />
        <div v-if="hasFill" class="two">
          <button class="act" title="Takes its colour from another item and keeps it the same" @click="sameAs">Same as…</button>
          <button v-if="many.length <= 2" class="act" :title="many.length === 2 ? 'The two exchange their colours' : 'Exchanges its colour with what it stands on'" @click="bench.act({ act: 'swapColours', items: bench.selection })">Swap colours</button>
        </div>
        <ContrastLine v-if="only && only.content.kind === 'words'" :plain="only" />
        <ShareField label="Opacity" :value="(first.look.opacity / RATIO_WHOLE) * 100" @live="(v) => change({ act: 'setOpacity', items: items(), opacity: toRatio(v / 100) }, true)" @done="(v) => change({ act: 'setOpacity', items: items(), opacity: toRatio(v / 100) }, true)" />
        <ChoiceField label="Mixing" :value="first.look.blend" :choices="blends" @done="(blend) => change({ act: 'setBlend', items: items(), blend })" />
      </section>
      <section v-if="first.look.stroke || first.look.effects?.length || first.look.backing || first.look.frost">
        <h3>Edge and light</h3>
        <LineFields v-if="first.look.stroke" :stroke="first.look.stroke" :scale="scale" @live="(by) => change({ act: 'changeLine', items: items(), change: by }, true)" @done="(by) => change({ act: 'changeLine', items: items(), change: by })" />
        <BackingFields v-if="first.look.backing" :backing="first.look.backing" :scale="scale" @live="(by) => change({ act: 'changeBacking', items: items(), change: by }, true)" @done="(by) => change({ act: 'changeBacking', items: items(), change: by })" />
        <div v-if="first.look.frost" class="frost">
          <MeasureField label="Blur of what lies behind" short="Blur behind" :value="Math.round((first.look.frost * scale) / RATIO_WHOLE)" :unit="bench.piece!.format.unit" :ppi="bench.piece!.format.ppi" :least="0" @change="(blur) => change({ act: 'setFrost', items: items(), blur: blur || null })" />
        </div>
        <EffectFields v-for="(effect, i) in first.look.effects ?? []" :key="`${i}-${effect.kind}`" :effect="effect" :scale="scale" @live="change({ act: 'changeEffect', items: items(), index: i, change: $event }, true)" @done="change({ act: 'changeEffect', items: items(), index: i, change: $event })" @remove="change({ act: 'dropEffect', items: items(), index: i })" />
      </section>
      <label class="give"><Plus :size="14" aria-hidden="true" />
        <select class="field" aria-label="Give it" value="" @change="change({ act: 'give', items: items(), gift: ($event.target as HTMLSelectElement).value as Gift }); ($event.target as HTMLSelectElement).value = ''" @keydown.stop>
          <option value="" disabled>Line, shadow, backing…</option>
          <option v-for="gift in offers" :key="gift" :value="gift">{{ giftNames[gift] }}</option>
        </select>
      </label>
      <PlaceFields v-if="only" :plain="only" />
      <TieFields v-if="only" :plain="only" />
    </template>
    <div v-else class="nothing">
      <h2>{{ bench.piece?.name }}</h2>
      <p class="quiet">Nothing is selected. Click something on the sheet to change it; double-click words to type, a picture to move it in its frame.</p>
      <dl class="keys">
        <dt>Arrows</dt><dd>move by one, with Shift by ten</dd>
        <dt>Enter</dt><dd>edit what is selected</dd>
        <dt>Ctrl D</dt><dd>duplicate; once more goes on in the same step</dd>
        <dt>Page up, down</dt><dd>forward and back, with Shift all the way</dd>
        <dt>Ctrl C, X, V</dt><dd>copy, cut and paste, also to other sides and jobs; with Alt V only the look</dd>
        <dt>Delete</dt><dd>remove; it waits in the tray under Layout</dd>
        <dt>Ctrl G</dt><dd>make one group, with Shift dissolve it</dd>
        <dt>Shift</dt><dd>with a corner: free proportion; moving: straight</dd>
        <dt>Alt</dt><dd>while dragging: nothing falls into place</dd>
        <dt>Space</dt><dd>hold and drag to pan</dd>
        <dt>Ctrl wheel</dt><dd>zoom</dd>
        <dt>0 and 1</dt><dd>fit, and 100 %</dd>
      </dl>
    </div>
  </aside>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 16px;
  padding: 14px 14px 24px;
  background: var(--paper);
  border-left: 1px solid var(--rule);
}

header {
  display: flex;
  align-items: center;
}

header h2 {
  flex: 1;
}

section {
  display: grid;
  gap: 8px;
}

.sharing {
  padding: 8px 10px;
  border-left: 3px solid var(--rule-strong);
  background: var(--paper-2);
  color: var(--ink-2);
  font-size: var(--text-1);
}

.link {
  text-decoration: underline;
  text-underline-offset: 3px;
  color: var(--ink);
}

.nothing {
  display: grid;
  gap: 10px;
}

.give {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 8px;
  color: var(--ink-2);
}

.keys {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 5px 12px;
  margin-top: 12px;
  color: var(--ink-2);
  font-size: var(--text-1);
}

.keys dt {
  font-weight: 600;
}
</style>
