<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { computed } from 'vue'
import type { Act, Blend, Gift, Paint, Property } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import { useBench } from '../stores/bench'
import { blendNames } from '../darkroom/names'
import CodeFields from '../edit/CodeFields.vue'
import ColorPick from '../edit/ColorPick.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import MeasureField from '../parts/MeasureField.vue'
import PaintPick from '../edit/PaintPick.vue'
import ShareField from '../parts/ShareField.vue'
import BackingFields from '../edit/BackingFields.vue'
import CombineFields from '../arrange/CombineFields.vue'
import ContrastLine from '../check/ContrastLine.vue'
import DrawingFields from '../bring/DrawingFields.vue'
import EffectFields from '../edit/EffectFields.vue'
import LineFields from '../edit/LineFields.vue'
import OutlineFields from '../edit/OutlineFields.vue'
import PictureArrange from '../pictures/PictureArrange.vue'
import FrameFields from '../pictures/FrameFields.vue'
import PictureFields from '../pictures/PictureFields.vue'
import PlaceFields from '../arrange/PlaceFields.vue'
import StackFields from '../arrange/StackFields.vue'
import TieFields from '../arrange/TieFields.vue'
import TypeDetail from '../edit/TypeDetail.vue'
import TypeFields from '../edit/TypeFields.vue'
import { useType } from '../edit/use-type'
import ActMenu from '../parts/ActMenu.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import FinishFields from './FinishFields.vue'
import GroupFields from '../arrange/GroupFields.vue'

/** The card of what is selected: only what it has. */
const emit = defineEmits<{ zoom: [factor: number] }>()
const bench = useBench()

const only = computed(() => bench.only)
const many = computed(() => bench.selected)
const first = computed(() => many.value[0] ?? null)
const titles: Record<string, string> = {
  headline: 'Headline',
  support: 'Second line',
  when: 'When',
  where: 'Where',
  detail: 'Text',
  price: 'Price',
  action: 'Call to action',
  contact: 'Contact',
  smallPrint: 'Small print',
  mark: 'Mark',
  mainPicture: 'Main picture',
  picture: 'Picture',
  panel: 'Panel',
  ornament: 'Ornament',
}
const title = computed(() =>
  only.value ? (only.value.content.kind === 'code' ? 'Code to scan' : (titles[only.value.part] ?? 'Item')) : `${many.value.length} items`,
)
const shared = computed(() => (only.value ? bench.shownIn(only.value.item.kin) : 0))
let gesture = `card-${crypto.randomUUID()}`

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
  bench.point({
    say: 'Point at the item whose colour it takes and keeps.',
    what: 'item',
    take: (to) => {
      bench.selection = items
      void bench.act({ act: 'linkColour', items, to })
    },
  })
}
const scale = computed(() => first.value?.item.place.scale ?? RATIO_WHOLE)
const isWords = computed(() => many.value.length > 0 && many.value.every((p) => p.content.kind === 'words'))
const giftNames: Record<Gift, string> = {
  line: 'Line',
  shadow: 'Shadow',
  innerShadow: 'Inner shadow',
  relief: 'Relief',
  cast: 'Shadow on the ground',
  contact: 'Shadow right under it',
  reflection: 'Image in the ground',
  rim: 'Rim like a sticker',
  highlight: 'Highlight',
  button: 'Button',
  frost: 'Blur what lies behind',
}
/** What an item may still be given; only what it does not have. */
const offers = computed(() => (first.value ? (bench.drawn.get(first.value.item.id)?.gifts ?? []) : []))

const blends = (Object.entries(blendNames) as [Blend, string][]).map(([value, name]) => ({ value, name }))

/** The arrangement all of what is selected belongs to: it can have another form at any time. */
const cells = computed(() => {
  const items = many.value.length > 1 ? bench.arrangements.find((cells) => many.value.every((p) => cells.includes(p.item.id))) : undefined
  const pictures = items?.flatMap((id) => {
    const p = bench.plain(id)
    return p?.content.kind === 'picture' && p.content.picture ? [p.content.picture] : []
  })
  return items && pictures?.length === items.length ? { pictures, items } : null
})

const lettersOf = useType(() => many.value)
const fillLabel = computed(() => (first.value?.content.kind === 'words' ? 'Colour' : 'Fill'))
const flat = computed(() => (first.value?.look.fill?.kind === 'flat' ? first.value.look.fill : null))
/** A colour alone, as it is changed nearly every time; other fills are below. */
function setTint(tint: string, live: boolean) {
  setFill({ kind: 'flat', tint, opacity: flat.value?.opacity ?? RATIO_WHOLE }, live)
  if (!live) bench.goOnTyping()
}

/** How many steps a shape treats with what lies behind it. */
const treats = computed(() => (only.value?.content.kind === 'shape' ? (only.value.look.treatments?.length ?? 0) : 0))
/** Whether it is treated as it is drawn, and in how many steps. */
const asDrawn = computed(() =>
  only.value && (only.value.content.kind === 'words' || only.value.content.kind === 'drawing')
    ? { steps: only.value.look.treatments?.length ?? 0 }
    : null,
)

/** What is set in a group of the card, for its heading. */
const lit = computed(() => {
  const look = first.value?.look
  if (!look) return ''
  const effects = (look.effects ?? []).map(
    (effect) =>
      ({
        shadow: 'shadow',
        innerShadow: 'inner shadow',
        relief: 'relief',
        cast: 'cast shadow',
        contact: 'contact shadow',
        reflection: 'reflection',
        rim: 'rim',
      })[effect.kind],
  )
  return [
    look.stroke ? 'line' : '',
    look.backing ? 'backing' : '',
    look.frost ? 'blur behind' : '',
    ...effects,
    asDrawn.value?.steps ? 'treated' : '',
  ]
    .filter(Boolean)
    .join(', ')
})
const mixed = computed(() => {
  const look = first.value?.look
  if (!look) return ''
  const kind =
    look.fill && look.fill.kind !== 'flat'
      ? { linear: 'gradient', radial: 'gradient', conic: 'gradient', pattern: 'pattern', picture: 'picture' }[look.fill.kind]
      : ''
  return [
    kind,
    look.opacity < RATIO_WHOLE ? `${Math.round((look.opacity / RATIO_WHOLE) * 100)} %` : '',
    look.blend !== 'normal' ? blends.find((entry) => entry.value === look.blend)!.name.toLowerCase() : '',
  ]
    .filter(Boolean)
    .join(', ')
})

const hasFill = computed(
  () => many.value.length > 0 && many.value.every((p) => p.content.kind !== 'picture' && p.content.kind !== 'drawing'),
)

type Kept = Property | 'content'
const keptNames: Record<Property, string> = {
  colour: 'Colour',
  line: 'Line',
  face: 'Family and weight',
  size: 'Size of type',
  setting: 'Setting of type',
  light: 'Light and mixing',
  treatment: 'Treatment of the picture',
}
const contentName = computed(() =>
  only.value?.content.kind === 'words' ? 'Words' : only.value?.content.kind === 'picture' ? 'Picture' : 'Shape',
)
/** What of the item is its own here. */
const kept = computed<Kept[]>(() => [
  ...(only.value?.ownContent ? (['content'] as Kept[]) : []),
  ...(only.value ? (bench.drawn.get(only.value.item.id)?.own ?? []) : []),
])
const nameOfKept = (one: Kept) => (one === 'content' ? contentName.value : keptNames[one])
const sharing = computed(() =>
  kept.value.length ? `${kept.value.map((one) => nameOfKept(one).toLowerCase()).join(', ')} only here` : `in ${shared.value} pieces`,
)
const sharingEntries = computed<{ value: Kept | 'all' | 'none'; name: string; apart?: boolean }[]>(() => {
  const kind = only.value?.content.kind
  const props: Kept[] =
    kind === 'words'
      ? ['content', 'colour', 'size', 'face', 'setting', 'line', 'light']
      : kind === 'shape'
        ? ['content', 'colour', 'line', 'light']
        : kind === 'picture'
          ? ['content', 'treatment', 'line', 'light']
          : ['content', 'line', 'light']
  return [
    ...props.map((one) => ({
      value: one,
      name: kept.value.includes(one) ? `${nameOfKept(one)} as in the others again` : `${nameOfKept(one)} only here`,
    })),
    kept.value.length
      ? { value: 'none' as const, name: 'Share everything again', apart: true }
      : { value: 'all' as const, name: 'Everything only here', apart: true },
  ]
})

/** Lets this item keep something for itself, or share it with the other pieces again. */
function share(what: Kept | 'all' | 'none') {
  const item = only.value?.item.id
  if (!item) return
  if (what === 'all' || what === 'none') void bench.act({ act: 'release', item, own: what === 'all' })
  else if (what === 'content') void bench.act({ act: 'keepContent', item, own: !kept.value.includes(what) })
  else void bench.act({ act: 'keepProperty', item, property: what, own: !kept.value.includes(what) })
}
</script>

<template>
  <aside class="card scroll" aria-label="What is selected" @pointerdown.capture="begin">
    <template v-if="first">
      <header>
        <h2>{{ title }}</h2>
        <p v-if="only && shared > 1" class="sharing">
          {{ sharing }} <ActMenu label="Sharing" :entries="sharingEntries" tool @done="share"><span class="link">Sharing</span></ActMenu>
        </p>
        <p v-if="only?.item.place.byHand && (bench.job?.pieces.length ?? 0) > 1" class="sharing">
          placed by hand here
          <button
            class="link"
            data-tip="It goes where the arrangement of this size has it"
            @click="bench.act({ act: 'followAgain', items: [only.item.id] })">
            Let it follow
          </button>
          <button class="link" data-tip="Repeats the last move where it means the same" @click="bench.chooser = 'repeat'">
            The same in others…
          </button>
        </p>
      </header>
      <div class="common">
        <TypeFields v-if="isWords" :items="many" />
        <CodeFields v-if="only && only.content.kind === 'code'" :key="`code-${only.item.id}`" :plain="only" />
        <PictureFields v-if="only && only.content.kind === 'picture'" :plain="only" @zoom="emit('zoom', $event)" />
        <DrawingFields v-if="only && only.content.kind === 'drawing'" :key="only.item.id" :plain="only" />
        <ColorPick
          v-if="isWords && lettersOf.part.value"
          label="Letters"
          :tint="lettersOf.own.value.tint ?? flat?.tint ?? null"
          @live="lettersOf.liveTint"
          @done="lettersOf.doneTint" />
        <ColorPick
          v-else-if="hasFill && (flat || !first.look.fill)"
          :label="fillLabel"
          :tint="flat?.tint ?? null"
          :none-label="isWords ? undefined : 'no fill'"
          @live="setTint($event, true)"
          @done="setTint($event, false)"
          @none="setFill(null, false)" />
        <PaintPick
          v-else-if="hasFill"
          :label="fillLabel"
          :paint="first.look.fill"
          compact
          :none-label="isWords ? undefined : 'no fill'"
          @live="setFill($event, true)"
          @done="setFill($event, false)" />
        <ContrastLine v-if="only && only.content.kind === 'words'" :plain="only" />
        <LineFields
          v-if="first.content.kind === 'shape' && first.look.stroke"
          :stroke="first.look.stroke"
          :scale="scale"
          @live="(by) => change({ act: 'changeLine', items: items(), change: by }, true)"
          @done="(by) => change({ act: 'changeLine', items: items(), change: by })" />
        <button
          v-if="only && treats"
          class="act"
          data-tip="What is done to all that is seen through this shape"
          @click="bench.darkroom = { item: only.item.id }">
          Treats what lies behind…<small class="count">{{ treats }}</small>
        </button>
        <OutlineFields v-if="only && only.content.kind === 'shape'" :key="`outline-${only.item.id}`" :plain="only" />
        <template v-if="cells">
          <h3>Arrangement</h3>
          <PictureArrange :key="cells.items.join()" :pictures="cells.pictures" :items="cells.items" />
        </template>
        <CombineFields />
        <StackFields />
      </div>
      <div class="folds">
        <GroupFields v-if="bench.pickedGroup" :key="bench.pickedGroup" :group="bench.pickedGroup" />
        <TypeDetail v-if="isWords" :items="many" />
        <FrameFields v-if="only && only.content.kind === 'picture'" :plain="only" />
        <FoldGroup name="colour" title="Fill and mixing" :says="mixed">
          <PaintPick
            v-if="hasFill"
            rest
            :label="fillLabel"
            :paint="first.look.fill"
            :none-label="isWords ? undefined : 'no fill'"
            @live="setFill($event, true)"
            @done="setFill($event, false)" />
          <div v-if="hasFill" class="two">
            <button class="act" data-tip="Takes its colour from another item and keeps it the same" @click="sameAs">Same as…</button>
            <button
              v-if="many.length <= 2"
              class="act"
              :data-tip="many.length === 2 ? 'The two exchange their colours' : 'Exchanges its colour with what it stands on'"
              @click="bench.act({ act: 'swapColours', items: bench.selection })">
              Swap colours
            </button>
          </div>
          <ShareField
            label="Opacity"
            :value="(first.look.opacity / RATIO_WHOLE) * 100"
            @live="(v) => change({ act: 'setOpacity', items: items(), opacity: toRatio(v / 100) }, true)"
            @done="(v) => change({ act: 'setOpacity', items: items(), opacity: toRatio(v / 100) }, true)" />
          <ChoiceField
            label="Mixes by"
            :value="first.look.blend"
            :choices="blends"
            @done="(blend) => change({ act: 'setBlend', items: items(), blend })" />
        </FoldGroup>
        <FoldGroup name="light" title="Edge and light" :says="lit">
          <ActMenu
            label="Give it"
            :entries="offers.map((gift) => ({ value: gift, name: giftNames[gift] }))"
            :disabled="!offers.length"
            @done="(gift) => change({ act: 'give', items: items(), gift })"
            ><Plus :size="14" />Line, shadow, backing</ActMenu
          >
          <LineFields
            v-if="first.look.stroke && first.content.kind !== 'shape'"
            :stroke="first.look.stroke"
            :scale="scale"
            @live="(by) => change({ act: 'changeLine', items: items(), change: by }, true)"
            @done="(by) => change({ act: 'changeLine', items: items(), change: by })" />
          <BackingFields
            v-if="first.look.backing"
            :backing="first.look.backing"
            :scale="scale"
            @live="(by) => change({ act: 'changeBacking', items: items(), change: by }, true)"
            @done="(by) => change({ act: 'changeBacking', items: items(), change: by })" />
          <MeasureField
            v-if="first.look.frost"
            label="Blur of what lies behind"
            short="Blur behind"
            :value="Math.round((first.look.frost * scale) / RATIO_WHOLE)"
            :unit="bench.piece!.format.unit"
            :ppi="bench.piece!.format.ppi"
            :least="0"
            @change="(blur) => change({ act: 'setFrost', items: items(), blur: blur || null })" />
          <button
            v-if="only && only.content.kind === 'shape' && !treats"
            class="act"
            data-tip="Treats what is seen through this shape: blurred, grey, in squares, warmer…"
            @click="bench.darkroom = { item: only.item.id }">
            Treat what lies behind…
          </button>
          <button
            v-if="only && asDrawn"
            class="act"
            data-tip="Blurred, worn, faded out and more, changeable for ever; the words stay words"
            @click="bench.darkroom = { item: only.item.id }">
            Darkroom…<small v-if="asDrawn.steps" class="count">{{ asDrawn.steps }}</small>
          </button>
          <EffectFields
            v-for="(effect, i) in first.look.effects ?? []"
            :key="`${i}-${effect.kind}`"
            :effect="effect"
            :scale="scale"
            @live="change({ act: 'changeEffect', items: items(), index: i, change: $event }, true)"
            @done="change({ act: 'changeEffect', items: items(), index: i, change: $event })"
            @remove="change({ act: 'dropEffect', items: items(), index: i })" />
        </FoldGroup>
        <PlaceFields v-if="only" :plain="only" />
        <TieFields v-if="only" :plain="only" />
      </div>
    </template>
    <div v-else class="nothing">
      <h2>{{ bench.piece?.name }}</h2>
      <p class="quiet">
        Nothing is selected. Click something on the sheet to change it; double-click words to type, a picture to move it in its frame.
      </p>
      <FinishFields v-if="bench.piece && bench.piece.format.unit !== 'px'" :piece="bench.piece" />
      <FoldGroup name="keys" title="Keys"
        ><dl class="keys">
          <dt>Arrows</dt>
          <dd>move by one, with Shift by ten</dd>
          <dt>Enter</dt>
          <dd>edit what is selected</dd>
          <dt>Ctrl D</dt>
          <dd>duplicate; once more goes on in the same step</dd>
          <dt>Page up, down</dt>
          <dd>forward and back, with Shift all the way</dd>
          <dt>Ctrl C, X, V</dt>
          <dd>copy, cut and paste, also to other sides and jobs; with Alt V only the look</dd>
          <dt>Delete</dt>
          <dd>remove; it waits in the tray under Layout</dd>
          <dt>Ctrl G</dt>
          <dd>make one group, with Shift dissolve it</dd>
          <dt>Shift</dt>
          <dd>with a corner: free proportion; moving: straight</dd>
          <dt>Alt</dt>
          <dd>while dragging: nothing falls into place</dd>
          <dt>Space</dt>
          <dd>hold and drag to pan</dd>
          <dt>Ctrl wheel</dt>
          <dd>zoom</dd>
          <dt>0 and 1</dt>
          <dd>fit, and 100 %</dd>
        </dl></FoldGroup
      >
    </div>
  </aside>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 12px 14px 24px;
  background: var(--paper);
  border-left: 1px solid var(--rule);
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 2px 8px;
}

.common {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}

.folds {
  margin: 0 -14px;
}

.folds :deep(.fold) {
  padding: 0 14px;
}

.sharing {
  color: var(--ink-3);
  font-size: var(--text-1);
}

.sharing :deep(.tool) {
  display: inline;
  width: auto;
  height: auto;
}

.nothing {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
}

.keys {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 5px 12px;
  color: var(--ink-2);
  font-size: var(--text-1);
}

.keys dt {
  font-weight: 600;
}
</style>
