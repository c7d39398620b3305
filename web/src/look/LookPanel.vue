<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { computed, onMounted, ref, watch } from 'vue'
import { api } from '../api/client'
import { useNewest } from '../api/newest'
import type { Paint, Palette, Tint, UsedColour } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'
import ColorPick from '../edit/ColorPick.vue'
import ActMenu from '../parts/ActMenu.vue'
import DraftField from '../parts/DraftField.vue'
import InkFields from './InkFields.vue'
import PaintPick from '../edit/PaintPick.vue'

/** What the whole job shares: its colours, and the ground of this side. */
const bench = useBench()
const notices = useNotices()
let gesture = ''

const swatches = computed(() => Object.entries(bench.job?.swatches ?? {}).flatMap(([id, swatch]) => (swatch ? [{ id, ...swatch }] : [])))
const ground = computed(() => bench.side?.ground ?? null)

/** Colours that are no shared ones; each can be replaced wherever it stands. */
const loose = ref<UsedColour[]>([])
const look = useNewest(
  () => (bench.job && bench.sideId ? api.colours(bench.job.id, bench.sideId, null) : null),
  (found) => {
    loose.value = found.used.filter((used) => !used.tint.startsWith('@'))
  },
  () => {
    loose.value = []
  },
  200,
)
watch(() => [bench.sideId, bench.revision], look, { immediate: true })

/** Shows what replacing a colour would look like, until the hand has chosen. */
async function tryColour(from: Tint, to: Tint) {
  const stage = await bench.rehearse({ act: 'replaceColour', from, to })
  if (stage) bench.patchStage(stage)
}
const replace = (from: Tint, to: Tint) => void bench.act({ act: 'replaceColour', from, to })

function begin() {
  gesture = `look-${crypto.randomUUID()}`
}

function recolour(id: string, to: Tint) {
  void bench.act({ act: 'recolour', id, to }, gesture || undefined)
}

function rename(id: string, typed: string) {
  const name = typed.trim()
  if (name) void bench.act({ act: 'renameColour', id, name })
}

function setGround(ground: Paint | null) {
  if (bench.sideId) void bench.act({ act: 'setGround', side: bench.sideId, ground }, gesture || undefined)
}

/** The same ground on every side of this piece. */
function groundEverywhere() {
  if (bench.sideId) void bench.act({ act: 'spreadGround', side: bench.sideId })
}

const palettes = ref<Palette[]>([])
onMounted(async () => {
  palettes.value = await api.palettes().catch(() => [])
})

function addColour(color = '#8c5a3c', name = 'New colour') {
  void bench.act({ act: 'addColour', name, color })
}

/** Colours read from a picture of the shelf. */
const shelf = useShelf()
const read = ref<{ name: string; colours: string[] } | null>(null)
async function readPicture(id: string) {
  try {
    read.value = { name: shelf.picture(id)?.name ?? 'Picture', colours: await api.pictureColours(id) }
  } catch (error) {
    notices.report(error)
  }
}
</script>

<template>
  <section aria-labelledby="look-title" @pointerdown.capture="begin">
    <div class="panel-head">
      <h2 id="look-title">Look</h2>
      <button class="act" @click="bench.chooser = 'designs'">Another design</button>
    </div>
    <h3>Ground of this side</h3>
    <PaintPick label="Ground" :paint="ground" none-label="clear sheet" @live="setGround" @done="setGround" />
    <button v-if="(bench.piece?.sides.length ?? 0) > 1" class="act everywhere" @click="groundEverywhere">
      On every side of this piece
    </button>
    <template v-if="loose.length">
      <h3 class="loose">Used on this side only</h3>
      <p class="quiet note">Choose another, and it takes the place of this one everywhere.</p>
      <ul class="single">
        <li v-for="used in loose" :key="used.tint">
          <ColorPick :label="''" :tint="used.tint" @live="tryColour(used.tint, $event)" @done="replace(used.tint, $event)" />
        </li>
      </ul>
    </template>
    <div class="panel-head">
      <h3>Colours of this job</h3>
      <button class="act" @click="addColour()"><Plus :size="14" />Colour</button>
    </div>
    <p class="quiet note">Change one and everything in it follows, in every piece.</p>
    <ul>
      <li v-for="swatch in swatches" :key="swatch.id">
        <DraftField :value="swatch.name" :aria-label="`Name of ${swatch.name}`" maxlength="60" @done="rename(swatch.id, $event)" />
        <ColorPick :label="''" :tint="swatch.color" @live="recolour(swatch.id, $event)" @done="recolour(swatch.id, $event)" />
      </li>
    </ul>
    <ActMenu
      class="read"
      label="Read colours from a picture"
      :entries="shelf.pictures.map((card) => ({ value: card.id, name: card.name }))"
      @done="readPicture"
      >Read from a picture…</ActMenu
    >
    <div v-if="read" class="drops" role="group" :aria-label="`Colours of ${read.name}`">
      <button
        v-for="colour in read.colours"
        :key="colour"
        :style="{ background: colour }"
        :aria-label="`Add ${colour}`"
        :title="`Add ${colour} to the colours of this job`"
        @click="addColour(colour, read.name)" />
    </div>
    <InkFields v-if="bench.job?.pieces.some((piece) => piece.format.unit !== 'px')" class="inks" />
    <h3 class="whole">Whole palettes</h3>
    <p class="quiet note">Each colour takes the role it had: what could be read can still be read.</p>
    <div class="palettes">
      <button
        v-for="palette in palettes"
        :key="palette.name"
        :style="{ background: palette.colours[0], color: palette.colours[1] }"
        :aria-label="`Palette ${palette.name}`"
        @click="bench.act({ act: 'applyPalette', name: palette.name })">
        <span>{{ palette.name }}</span>
        <i v-for="(colour, i) in palette.colours.slice(1, 5)" :key="i" :style="{ background: colour }" />
      </button>
    </div>
  </section>
</template>

<style scoped>
.read {
  margin-top: 12px;
}

.drops {
  display: flex;
  gap: 6px;
  margin-top: 8px;
}

.drops button {
  width: 24px;
  height: 24px;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.25);
}

.inks {
  margin-top: 14px;
}

.whole {
  margin-top: 20px;
}

.palettes {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 6px;
}

.palettes button {
  display: flex;
  align-items: center;
  gap: 3px;
  height: 34px;
  padding: 0 7px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  text-align: left;
}

.palettes span {
  flex: 1;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  font-size: var(--text-1);
}

.palettes i {
  width: 7px;
  height: 18px;
}

h2 {
  margin-bottom: 12px;
}

h3 {
  margin-bottom: 6px;
}

.panel-head {
  margin-top: 22px;
}

.everywhere {
  margin-top: 8px;
}

.note {
  margin-bottom: 10px;
}

ul {
  display: grid;
  gap: 6px;
}

.loose {
  margin-top: 22px;
}

ul.single li {
  grid-template-columns: 1fr;
}

li {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 6px;
}

li :deep(.pick) {
  grid-template-columns: 1fr;
  gap: 0;
}

li :deep(.label) {
  display: none;
}
</style>
