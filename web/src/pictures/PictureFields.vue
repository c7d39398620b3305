<script setup lang="ts">
import { FlipHorizontal2, ZoomIn, ZoomOut } from '@lucide/vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import { api } from '../api/client'
import { useBench, type Plain } from '../stores/bench'
import { useShelf } from '../stores/shelf'
import type { Content, Crop, PictureFit } from '../generated/types'
import { RATIO_WHOLE, toFine } from '../measures'
import { useSubject } from '../darkroom/use-subject'
import ActMenu from '../parts/ActMenu.vue'
import AngleField from '../parts/AngleField.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import ShelfDialog from './ShelfDialog.vue'

const TraceDialog = defineAsyncComponent(() => import('./TraceDialog.vue'))

/** What a frame shows and how the picture sits in it. */
const props = defineProps<{ plain: Plain }>()
const emit = defineEmits<{ zoom: [factor: number] }>()
const bench = useBench()
const shelf = useShelf()

const picture = computed(() => (props.plain.content.kind === 'picture' ? props.plain.content.picture : null))
const card = computed(() => (picture.value ? shelf.picture(picture.value) : undefined))
const moving = computed(() => bench.cropping === props.plain.item.id)

function refit() {
  void bench.act({ act: 'refit', item: props.plain.item.id })
}

/** What matters in the picture is pointed at where it is seen. */
function pointOut() {
  const item = props.plain.item.id
  bench.point({
    say: 'Point at what matters in the picture. It stays in view in every size.',
    what: 'spot',
    take: (_to, at) => {
      bench.selection = [item]
      void bench.act({ act: 'setFocus', item, at: { x: toFine(at.x), y: toFine(at.y) } })
    },
  })
}

const content = computed(() => props.plain.content as Extract<Content, { kind: 'picture' }>)
const fits: { value: PictureFit; name: string }[] = [
  { value: 'fill', name: 'Fills the frame' },
  { value: 'fit', name: 'Lies whole inside' },
  { value: 'tile', name: 'Repeats' },
]
const setFit = (fit: PictureFit) => bench.act({ act: 'setFit', item: props.plain.item.id, fit })
const crop = computed<Crop>(() => props.plain.item.place.crop ?? { centre: content.value.focus, zoom: RATIO_WHOLE, turn: 0, flip: false })

const setCrop = (by: { turn?: number; flip?: boolean }) => bench.act({ act: 'turnPicture', item: props.plain.item.id, ...by })

const subject = useSubject(() => props.plain.item.id)
type Cut = 'cut' | 'blank' | 'front' | 'white' | 'colour' | 'gradient' | 'picture' | 'trace' | 'brush' | 'whole'
const cuts = computed<{ value: Cut; name: string; apart?: boolean }[]>(() => [
  { value: 'cut', name: 'Only the subject' },
  { value: 'blank', name: 'Without its even ground' },
  { value: 'front', name: 'Subject in front of the words' },
  { value: 'white', name: 'On white, with a margin', apart: true },
  { value: 'colour', name: 'On a colour' },
  { value: 'gradient', name: 'On a gradient' },
  { value: 'picture', name: 'On another picture…' },
  { value: 'trace', name: 'Trace into outlines…', apart: true },
  { value: 'brush', name: 'By brush, in the darkroom…' },
  ...(props.plain.look.cut_out ? [{ value: 'whole' as const, name: 'The whole picture again', apart: true }] : []),
])
const tracing = ref(false)
const choosing = ref(false)
/** The colour last used, else the first shared one: what a ground starts with. */
const tint = () => bench.lastTint ?? (Object.keys(bench.job?.swatches ?? {})[0] ? `@${Object.keys(bench.job!.swatches)[0]}` : '#d8d2c6')
async function cutOut(what: Cut) {
  if (what === 'cut') await subject.cut()
  else if (what === 'blank') await subject.cut('withoutGround')
  else if (what === 'front') await subject.front()
  else if (what === 'white') await subject.putOn({ kind: 'white' })
  else if (what === 'colour' || what === 'gradient') await subject.putOn({ kind: what, tint: tint() })
  else if (what === 'picture') choosing.value = true
  else if (what === 'trace') tracing.value = true
  else if (what === 'whole') await bench.act({ act: 'showWhole', item: props.plain.item.id })
  else bench.darkroom = { item: props.plain.item.id }
}
function putOn(picture: string) {
  choosing.value = false
  void subject.putOn({ kind: 'picture', picture })
}
</script>

<template>
  <section>
    <template v-if="picture">
      <div class="shown">
        <img :src="api.media(picture, 160)" alt="" />
        <span
          >{{ card?.name ?? 'Picture' }}<small class="quiet">{{ card ? `${card.width} × ${card.height} px` : '' }}</small></span
        >
      </div>
      <div class="row">
        <button class="act" :aria-pressed="moving" @click="bench.cropping = moving ? null : plain.item.id">
          {{ moving ? 'Done' : 'Move in frame' }}
        </button>
        <template v-if="moving">
          <button class="tool" aria-label="Scale the picture down in its frame" @click="emit('zoom', 1 / 1.1)">
            <ZoomOut :size="16" />
          </button>
          <button class="tool" aria-label="Scale the picture up in its frame" @click="emit('zoom', 1.1)"><ZoomIn :size="16" /></button>
        </template>
        <button v-if="!moving" class="act" data-tip="What matters stays in view, whatever shape the frame has" @click="pointOut">
          What matters…
        </button>
        <button
          v-if="!moving"
          class="act"
          data-tip="Light, colour, sharpness, grain and more, changeable for ever"
          @click="bench.darkroom = { item: plain.item.id }">
          Darkroom…<small v-if="plain.look.treatments?.length" class="count">{{ plain.look.treatments.length }}</small>
        </button>
        <ActMenu v-if="!moving" label="Cut out" :entries="cuts" :disabled="subject.finding.value" @done="cutOut">{{
          subject.finding.value ? `Looking… ${subject.share.value} %` : 'Cut out…'
        }}</ActMenu>
        <button v-if="subject.finding.value" class="link" @click="subject.giveUp()">Give up</button>
        <button v-if="plain.item.place.crop" class="act" @click="refit">Fill again</button>
      </div>
      <div class="two">
        <AngleField label="Turn of the picture in its frame" :value="crop.turn" @done="setCrop({ turn: $event })" />
        <button class="act" :aria-pressed="crop.flip" data-tip="Mirror the picture in its frame" @click="setCrop({ flip: !crop.flip })">
          <FlipHorizontal2 :size="15" />Mirror
        </button>
      </div>
      <ShelfDialog v-if="choosing" title="On which picture?" @close="choosing = false" @choose="putOn" />
      <TraceDialog v-if="tracing" :item="plain.item.id" @close="tracing = false" />
      <ChoiceField label="Shown" :value="content.fit" :choices="fits" @done="setFit" />
    </template>
    <p v-else class="quiet">
      This frame is empty and will not leave in a file. Choose a picture under Pictures, drop one here or paste one.
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}

.shown {
  display: flex;
  gap: 10px;
  align-items: center;
}

img {
  width: 52px;
  height: 52px;
  object-fit: cover;
}

small {
  display: block;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

.row {
  display: flex;
  gap: 4px;
  flex-wrap: wrap;
}
</style>
