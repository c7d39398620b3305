<script setup lang="ts">
import { ChevronDown, ChevronUp, Columns2, Trash2, X } from '@lucide/vue'
import { useFileDialog } from '@vueuse/core'
import { ElMessageBox, ElSwitch } from 'element-plus'
import { computed, defineAsyncComponent, nextTick, onMounted, onUnmounted, ref, watch } from 'vue'
import type { Area, AreaKind, CutStroke, Develop, Focus, Mask, Treatment } from '../generated/types'
import { api } from '../api/client'
import { RATIO_WHOLE, toRatio } from '../measures'
import ActMenu from '../parts/ActMenu.vue'
import ShareField from '../parts/ShareField.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import AddStep from './AddStep.vue'
import CutFields from './CutFields.vue'
import MaskFields from './MaskFields.vue'
import PrintView from './PrintView.vue'
import StepField from './StepField.vue'
import ToneGraph from './ToneGraph.vue'
import UprightFields from './UprightFields.vue'
import ShelfDialog from '../pictures/ShelfDialog.vue'
import { brushOf, focus, setBrush, type Brush, type Spot } from './drawing'
import { useDarkroom } from './use-darkroom'

const CodeDialog = defineAsyncComponent(() => import('./CodeDialog.vue'))

/** A picture, what lies behind a shape, or a group, large, in its surroundings on the sheet, and what is done to it as a list in order. */
const props = defineProps<{ item: string; group?: string }>()
const bench = useBench()
const notices = useNotices()
const room = useDarkroom(props)
const { target } = room
/** Whether it is a picture; else what is treated is a part of the sheet. */
const isPicture = computed(() => !props.group && bench.plain(props.item)?.content.kind === 'picture')
const { steps, open, print, before, recipes, offered } = room
onMounted(() => void room.load())

const name = computed(() => (props.group ? 'Group' : (bench.names.get(props.item) ?? 'Picture')))
const cardOf = (step: Treatment) => offered.value?.kinds.find((card) => card.kind === step.develop.kind)
/** What was done last is at hand the next time, as a recipe. */
function close() {
  if (room.kept.value.length && room.changed.value) void api.keepRecipe(bench.job!.id, props, 'Same as last time').catch(() => undefined)
  bench.darkroom = null
}

/** Whether the picture is shown as it was, whole or beside. */
const held = ref(false)
const split = ref<number | null>(null)
function down(event: KeyboardEvent) {
  // While something is asked, keys belong to the question.
  if (code.value || overlaying.value || replacing.value !== null) return
  const typing = (event.target as HTMLElement).closest('input, textarea, [contenteditable]')
  if (event.key === 'Escape' && !typing) {
    if (drawing.value) drawing.value = null
    else close()
  } else if (event.key === '0' && !typing && !event.repeat) held.value = true
  else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !typing) {
    void bench.act({ act: event.shiftKey ? 'redo' : 'undo' })
  } else return
  event.preventDefault()
  event.stopPropagation()
}
const up = (event: KeyboardEvent) => {
  if (event.key === '0') held.value = false
}
onMounted(() => {
  window.addEventListener('keydown', down, true)
  window.addEventListener('keyup', up, true)
})
onUnmounted(() => {
  window.removeEventListener('keydown', down, true)
  window.removeEventListener('keyup', up, true)
})

const develop = (at: number, by: Partial<Develop>) => ({ develop: { ...steps.value[at]!.develop, ...by } as Develop })

/** What a press or a drag on the picture means just now. */
type Drawing = Area['kind'] | CutStroke | 'neutral' | 'point' | 'spot' | 'corners'
const drawing = ref<Drawing | null>(null)
const cutStrokes: Drawing[] = ['keep', 'remove', 'hide', 'show']
const cutting = computed(() => (drawing.value && cutStrokes.includes(drawing.value) ? (drawing.value as CutStroke) : null))
const cutFields = ref<InstanceType<typeof CutFields>>()
const pointed = ref('centre')
const brush = ref<Brush | null>(null)
/** Spots are patched with a brush of their own, which is smaller. */
const spotBrush = ref<Brush | null>(null)
watch(
  offered,
  (card) => {
    if (card) {
      brush.value ??= brushOf(card.brush)
      spotBrush.value ??= brushOf(card.spot)
    }
  },
  { immediate: true },
)
const heldBrush = computed(() => (drawing.value === 'spot' ? spotBrush.value : brush.value))
watch(open, () => {
  drawing.value = null
})
const others: Drawing[] = ['neutral', 'point', 'spot', 'corners']
const masking = computed(() =>
  drawing.value && !cutting.value && !others.includes(drawing.value) ? (drawing.value as Area['kind']) : null,
)

async function drawn(way: Spot[]) {
  const kind = drawing.value
  const at = open.value
  const places = way.map(focus)
  if (cutting.value) {
    await bench.act({ act: 'cutStroke', item: props.item, kind: cutting.value, brush: setBrush(brush.value!), way: places })
    // What was said about the subject is heeded at once.
    if (cutting.value === 'keep' || cutting.value === 'remove') await cutFields.value?.cut()
    return
  }
  if (kind === 'spot' && at !== null) {
    filling.value = true
    await bench.act({ act: 'paintSpot', item: props.item, at, brush: setBrush(spotBrush.value!), way: places })
    filling.value = false
    return
  }
  if (kind === 'corners') {
    await bench.act({ act: 'setUpright', item: props.item, change: { corners: places as [Focus, Focus, Focus, Focus] } })
    return
  }
  if (kind !== 'brush') drawing.value = null
  if (kind === 'neutral')
    await bench.act({ act: 'makeNeutral', item: props.item, ...(props.group ? { group: props.group } : {}), at: places.at(-1)! })
  else if (at === null || !kind) return
  else if (kind === 'point') await room.set(at, develop(at, { [pointed.value]: places.at(-1)! } as Partial<Develop>))
  else if (kind === 'brush') await bench.act({ act: 'maskStroke', ...target, at, brush: setBrush(brush.value!), way: places })
  else await bench.act({ act: 'maskArea', ...target, at, kind: kind as AreaKind, way: places })
}

/** Whether what fills a spot is being looked for. */
const filling = ref(false)
/** A step of a kind, and at once what it needs a hand for. */
const overlaying = ref(false)
async function add(kind: string) {
  if (kind === 'overlay') {
    overlaying.value = true
    return
  }
  await room.add(kind)
  if (kind === 'spots')
    await nextTick(() => {
      drawing.value = 'spot'
    })
}
async function layOver(picture: string) {
  overlaying.value = false
  await room.add('overlay', picture)
}
/** Another picture for a step that lays one over. */
const replacing = ref<number | null>(null)
async function layOther(picture: string) {
  const at = replacing.value
  replacing.value = null
  if (at !== null) await room.set(at, develop(at, { picture } as Partial<Develop>))
}
const spots = (step: Treatment) => (step.develop.kind === 'spots' ? step.develop.spots.length : 0)

/** An area of a kind is drawn on the picture; tones need no hand. */
async function draw(kind: Area['kind'] | null) {
  if (kind === 'subject' && open.value !== null) {
    const at = open.value
    const found = await cutFields.value?.find()
    if (found) await bench.act({ act: 'maskSubject', item: props.item, at, mask: found.mask })
  } else if (kind === 'light' && open.value !== null) await bench.act({ act: 'maskArea', ...target, at: open.value, kind, way: [] })
  else drawing.value = kind
}

async function setMask(at: number, mask: Mask | null) {
  if (mask) return room.set(at, { mask })
  const { mask: _gone, ...rest } = steps.value[at]!
  await bench.act({ act: 'setStep', ...target, at, step: rest })
}

/** The recipe that was taken last, and how much of it. */
const taken = ref<{ name: string; strength: number } | null>(null)
async function take(name: string, strength = 100) {
  const had = room.kept.value.length > 0 && !taken.value
  if (!(await bench.act({ act: 'takeRecipe', ...target, name, strength: toRatio(strength / 100) }))) return
  taken.value = { name, strength }
  open.value = null
  if (had)
    notices.say(`“${name}” took the place of what was done before.`, {
      action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
    })
}

type Deed = 'auto' | 'neutral' | 'side' | 'job' | 'nothing' | 'keep' | 'save' | 'code' | 'read'
const deeds = computed<{ value: Deed; name: string; apart?: boolean }[]>(() => [
  { value: 'auto', name: 'Stretch the tones' },
  { value: 'neutral', name: 'Point at what is grey' },
  ...(isPicture.value
    ? [
        { value: 'side' as const, name: 'The other pictures of this side alike', apart: true },
        { value: 'job' as const, name: 'All pictures of the job alike' },
      ]
    : []),
  { value: 'read', name: 'Recipe from a file or code…', apart: true },
  ...(room.kept.value.length
    ? [
        { value: 'keep' as const, name: 'Keep as a recipe…' },
        { value: 'save' as const, name: 'Save as a file' },
        { value: 'code' as const, name: 'Recipe as a code to scan…' },
        { value: 'nothing' as const, name: 'As it came', apart: true },
      ]
    : []),
])
async function does(deed: Deed) {
  if (deed === 'auto') {
    if (await bench.act({ act: 'autoLevels', item: props.item, ...(props.group ? { group: props.group } : {}) }))
      open.value = steps.value.findIndex((step) => step.develop.kind === 'levels')
  } else if (deed === 'neutral') drawing.value = 'neutral'
  else if (deed === 'save') save()
  else if (deed === 'keep') await keep()
  else if (deed === 'code') code.value = true
  else if (deed === 'read') dialog.open()
  else if (deed === 'nothing') {
    taken.value = null
    open.value = null
    await bench.act({ act: 'setSteps', ...target, steps: [] })
  } else await bench.act({ act: 'treatAlike', item: props.item, everywhere: deed === 'job' })
}
/** A recipe is kept under a name, for all jobs. */
async function keep() {
  const asked = await ElMessageBox.prompt('What is it called? It is offered for every picture of every job.', 'Keep as a recipe', {
    inputValue: taken.value?.name ?? '',
    inputPattern: /\S/,
    inputErrorMessage: 'A name has 1 to 60 letters.',
    confirmButtonText: 'Keep it',
    cancelButtonText: 'Never mind',
  }).catch(() => null)
  if (!asked) return
  try {
    await api.keepRecipe(bench.job!.id, props, asked.value.trim())
    await room.loadRecipes()
    taken.value = { name: asked.value.trim(), strength: 100 }
  } catch (error) {
    notices.report(error)
  }
}
async function letGo(name: string) {
  await api.letGo('recipes', name).catch((error) => notices.report(error))
  await room.loadRecipes()
}
/** A recipe is a file that can be handed on; what was painted by hand stays behind. */
function save() {
  const link = document.createElement('a')
  link.href = api.recipeFile(bench.job!.id, props, taken.value?.name ?? name.value)
  link.download = ''
  link.click()
  if (room.kept.value.some((step) => step.mask?.areas.some((one) => one.area.kind === 'brush')))
    notices.say('Saved. What was painted by hand is of this picture alone and was left out.')
}
const dialog = useFileDialog({ accept: '.json,application/json,image/png,image/jpeg,image/webp', multiple: false, reset: true })
dialog.onChange(async (files) => {
  if (!files?.[0]) return
  try {
    const recipe = await api.readRecipe(files[0])
    taken.value = null
    open.value = null
    if (await bench.act({ act: 'setSteps', ...target, steps: recipe.steps }))
      notices.say(`“${recipe.name}” was taken.`, { action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) } })
  } catch (error) {
    notices.report(error)
  }
})
const code = ref(false)
const says: Record<string, string> = {
  spot: 'Paint over what should be gone.',
  corners: 'Drag the four corners to those of what should be seen from straight ahead.',
  neutral: 'Press on something that should be grey.',
  point: 'Press where its middle is.',
}
/** The next press on the picture is for a field. */
function point(field: string) {
  pointed.value = field
  drawing.value = 'point'
}
function leaveShelf() {
  overlaying.value = false
  replacing.value = null
}
</script>

<template>
  <section class="darkroom" role="dialog" aria-modal="true" :aria-label="`Darkroom: ${name}`">
    <header>
      <h2>
        Darkroom <small>{{ name }}</small>
      </h2>
      <p v-if="drawing && says[drawing]" class="say" role="status">
        {{ says[drawing] }}
        <button class="link" @click="drawing = null">{{ drawing === 'spot' || drawing === 'corners' ? 'Done' : 'Never mind' }}</button>
      </p>
      <p v-else class="quiet keys">Hold 0 to see it as it came</p>
      <button
        class="act"
        :aria-pressed="split !== null"
        data-tip="As it came beside as it is now"
        @click="split = split === null ? 0.5 : null">
        <Columns2 :size="15" />Beside
      </button>
      <button class="act next" @click="close">Done</button>
    </header>
    <PrintView
      v-if="heldBrush"
      v-model:split="split"
      :item="item"
      :group="group"
      :print="print"
      :before="before"
      :held="held"
      :drawing="drawing"
      :brush="heldBrush"
      :step="open === null ? null : (steps[open] ?? null)"
      @drawn="drawn" />
    <aside class="scroll" aria-label="What is done to the picture">
      <ToneGraph :tones="print?.tones ?? null" />
      <CutFields
        v-if="isPicture && brush"
        ref="cutFields"
        :item="item"
        :drawing="cutting"
        :brush="brush"
        @draw="drawing = $event"
        @brush="brush = { ...brush!, ...$event }" />
      <UprightFields v-if="isPicture" :item="item" :drawing="drawing === 'corners'" @draw="drawing = $event ? 'corners' : null" />
      <div class="row">
        <AddStep
          v-if="offered"
          :kinds="offered.kinds.filter((card) => isPicture || !card.pictures_only)"
          :full="steps.length >= offered.most"
          @add="add" /><ActMenu label="Whole picture" :entries="deeds" @done="does"><ChevronDown :size="14" />More</ActMenu>
      </div>
      <p v-if="!steps.length" class="quiet">
        {{
          isPicture
            ? 'Nothing is done to this picture yet. Take a recipe below, or add a step. The original always stays as it is.'
            : group
              ? 'Nothing is done to this group as a whole yet. Take a recipe below, or add a step.'
              : bench.plain(item)?.content.kind === 'shape'
                ? 'Nothing is done to what lies behind this shape yet. Take a recipe below, or add a step.'
                : 'Nothing is done to this yet. Take a recipe below, or add a step. Words stay words.'
        }}
      </p>
      <ol>
        <li v-for="(step, n) in steps" :key="n" :class="{ open: open === n, off: !step.on }" :data-step="step.develop.kind">
          <div class="head">
            <ElSwitch
              size="small"
              :model-value="step.on"
              :aria-label="`${cardOf(step)?.name} at work`"
              @update:model-value="room.set(n, { on: Boolean($event) })" />
            <button class="name" :aria-expanded="open === n" @click="open = open === n ? null : n">
              {{ cardOf(step)?.name ?? step.develop.kind }}<small v-if="step.mask"> on a part</small>
            </button>
            <template v-if="open === n">
              <button class="tool" aria-label="Earlier" :disabled="n === 0" @click="room.move(n, n - 1)"><ChevronUp :size="15" /></button>
              <button class="tool" aria-label="Later" :disabled="n === steps.length - 1" @click="room.move(n, n + 1)">
                <ChevronDown :size="15" />
              </button>
              <button class="tool" aria-label="Take this step out" @click="room.drop(n)"><Trash2 :size="15" /></button>
            </template>
            <span v-else-if="step.amount < RATIO_WHOLE" class="quiet">{{ Math.round((step.amount / RATIO_WHOLE) * 100) }} %</span>
          </div>
          <div v-if="open === n && cardOf(step)" class="fields">
            <template v-if="masking !== 'brush'">
              <div v-if="step.develop.kind === 'spots'" class="painting">
                <template v-if="drawing === 'spot'">
                  <ShareField
                    label="Size"
                    :value="Math.round(spotBrush!.radius * 1000) / 10"
                    :min="0.2"
                    :max="12"
                    :step="0.1"
                    @live="spotBrush = { ...spotBrush!, radius: $event / 100 }"
                    @done="spotBrush = { ...spotBrush!, radius: $event / 100 }" />
                </template>
                <div class="two">
                  <button class="act" :aria-pressed="drawing === 'spot'" @click="drawing = drawing === 'spot' ? null : 'spot'">
                    {{ filling ? 'Filling…' : drawing === 'spot' ? 'Done painting' : 'Paint over spots…' }}</button><button
                    class="act"
                    :disabled="!spots(step)"
                    @click="bench.act({ act: 'dropSpot', item, at: n })">
                    Take the last back
                  </button>
                </div>
                <p class="quiet">
                  {{
                    spots(step)
                      ? `${spots(step)} ${spots(step) === 1 ? 'spot' : 'spots'} filled from what lies around.`
                      : 'What is painted over is filled from what lies around it.'
                  }}
                </p>
              </div>
              <StepField
                v-for="field in cardOf(step)!.fields"
                :key="field.key"
                :field="field"
                :develop="step.develop"
                :blends="offered!.blends"
                :textures="offered!.textures"
                @live="room.tryOut(n, develop(n, $event))"
                @done="room.set(n, develop(n, $event))"
                @point="point(field.key)"
                @picture="replacing = n" />
              <ShareField
                label="Amount"
                :value="Math.round((step.amount / RATIO_WHOLE) * 100)"
                @live="room.tryOut(n, { amount: toRatio($event / 100) })"
                @done="room.set(n, { amount: toRatio($event / 100) })" />
            </template>
            <MaskFields
              v-if="brush"
              :picture="isPicture"
              :step="step"
              :drawing="masking"
              :brush="brush"
              @live="$event && room.tryOut(n, { mask: $event })"
              @done="setMask(n, $event)"
              @draw="draw"
              @brush="brush = { ...brush!, ...$event }" />
          </div>
        </li>
      </ol>
    </aside>
    <footer aria-label="Recipes">
      <div v-if="taken" class="strength">
        <ShareField label="Of it" :value="taken.strength" @done="take(taken!.name, $event)" /><button
          class="tool"
          aria-label="Keep the recipe as it is now"
          @click="taken = null">
          <X :size="14" />
        </button>
      </div>
      <ul class="strip">
        <li v-for="recipe in recipes" :key="recipe.name">
          <button :aria-pressed="taken?.name === recipe.name" @click="take(recipe.name)">
            <img loading="lazy" :src="recipe.address" alt="" /><span>{{ recipe.name }}</span></button
          ><button v-if="recipe.kept" class="tool gone" :aria-label="`Let go of the recipe ${recipe.name}`" @click="letGo(recipe.name)">
            <X :size="13" />
          </button>
        </li>
      </ul>
    </footer>
    <ShelfDialog
      v-if="overlaying || replacing !== null"
      title="Which picture is laid over it?"
      @close="leaveShelf"
      @choose="replacing === null ? layOver($event) : layOther($event)" />
    <CodeDialog v-if="code" :of="props" :name="taken?.name ?? name" @close="code = false" />
  </section>
</template>

<style scoped>
.darkroom {
  position: fixed;
  inset: 0;
  z-index: 40;
  display: grid;
  grid-template: 48px minmax(0, 1fr) auto / minmax(0, 1fr) 316px;
  background: var(--paper);
}

header {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 14px;
  border-bottom: 1px solid var(--rule);
}

h2 {
  margin: 0;
  font-size: var(--text-3);
}

h2 small {
  margin-left: 8px;
  color: var(--ink-3);
  font-weight: 400;
}

.keys,
.say {
  flex: 1;
  margin: 0;
  text-align: center;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

aside {
  grid-row: 2 / 4;
  grid-column: 2;
  display: grid;
  align-content: start;
  gap: 10px;
  padding: 12px 14px 24px;
  border-left: 1px solid var(--rule);
}

.row {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: start;
  gap: 8px;
}

ol,
.strip {
  margin: 0;
  padding: 0;
  list-style: none;
}

ol {
  display: grid;
  border-top: 1px solid var(--rule);
}

ol > li {
  border-bottom: 1px solid var(--rule);
}

.head {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 36px;
}

.name {
  flex: 1;
  min-height: 36px;
  padding: 0;
  text-align: left;
}

.painting {
  display: grid;
  gap: 8px;
}

.painting p {
  margin: 0;
}

.name small {
  color: var(--ink-3);
}

.off .name {
  color: var(--ink-3);
}

.open > .head .name {
  font-weight: 600;
}

.fields {
  display: grid;
  gap: 8px;
  padding: 2px 0 14px;
}

footer {
  position: relative;
  grid-row: 3;
  grid-column: 1;
  display: grid;
  min-width: 0;
  border-top: 1px solid var(--rule);
}

.strength {
  display: grid;
  grid-template-columns: 300px auto;
  align-items: center;
  gap: 8px;
  position: absolute;
  bottom: 100%;
  left: 0;
  z-index: 1;
  padding: 4px 6px 4px 12px;
  background: var(--paper);
}

.strip {
  display: flex;
  gap: 8px;
  padding: 10px 12px;
  overflow-x: auto;
}

.strip button:not(.gone) {
  display: grid;
  gap: 4px;
  width: 92px;
  padding: 0;
  text-align: left;
  font-size: var(--text-1);
  color: var(--ink-2);
}

.strip img {
  width: 92px;
  height: 64px;
  object-fit: cover;
  background: var(--paper-3);
}

.strip button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
}

.strip button[aria-pressed='true'] img {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}

.strip li {
  position: relative;
}

.strip .gone {
  position: absolute;
  top: 2px;
  right: 2px;
  width: 22px;
  min-height: 22px;
  background: var(--paper);
}

.strip span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
