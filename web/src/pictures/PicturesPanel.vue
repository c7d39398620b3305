<script setup lang="ts">
import { ImagePlus, Plus } from '@lucide/vue'
import { useFileDialog } from '@vueuse/core'
import { ElSegmented } from 'element-plus'
import { computed, onUnmounted, ref, type Ref } from 'vue'
import { api } from '../api/client'
import { useBench, type Plain } from '../stores/bench'
import { useShelf } from '../stores/shelf'
import GraphicsShelf from '../bring/GraphicsShelf.vue'
import SwapSwitch from './SwapSwitch.vue'

/** The frames of this side and the shelf to fill them from. */
const bench = useBench()
const shelf = useShelf()
/** Pictures chosen for one arrangement, in the order they were chosen; nothing while not choosing. */
const several = computed({
  get: () => bench.arranging,
  set: (now) => {
    bench.arranging = now
  },
})
onUnmounted(() => {
  bench.arranging = null
})
const what = ref<'pictures' | 'graphics'>('pictures')

const frames = computed(() =>
  [...bench.order]
    .toReversed()
    .map((id) => bench.plain(id))
    .filter((p): p is Plain => p?.content.kind === 'picture'),
)
const pictureOf = (p: Plain) => (p.content.kind === 'picture' ? p.content.picture : null)
const target = computed(() => (bench.only?.content.kind === 'picture' ? bench.only : null))

const file = ref<HTMLInputElement>()
const dialog = useFileDialog({
  accept: 'image/png,image/jpeg,image/webp,image/gif,image/tiff',
  multiple: true,
  reset: true,
  input: file as Ref<HTMLInputElement>,
})
dialog.onChange(async (files) => {
  const brought = await shelf.bring(files ?? [])
  if (brought[0] && waiting.value.length) await choose(brought[0].id)
})

/** Of several frames that are filled in turn, those whose turn is still to come. */
const turns = ref<string[]>([])

/** Frames that wait for a picture: the selected one where it is to be replaced, of several selected each in its order, else an empty one that is selected. */
const waiting = computed(() => {
  const selected = bench.selected.filter((p) => p.content.kind === 'picture')
  if (selected.length > 1 || turns.value.join() === bench.selection.join()) return selected
  return selected.filter((p) => bench.swapping || !pictureOf(p))
})

async function choose(picture: string) {
  const [first, ...rest] = bench.replacing ? [] : waiting.value
  if (!first) {
    await bench.add({ kind: 'picture', picture })
    return
  }
  await bench.act({ act: 'show', item: first.item.id, picture })
  // Of several the next one waits now.
  turns.value = rest.map((p) => p.item.id)
  if (rest.length) bench.selection = [...turns.value]
}

const addFrame = () => bench.add({ kind: 'picture', picture: null })

function exchange(event: DragEvent, b: string) {
  const a = event.dataTransfer?.getData('application/x-frame')
  const picture = event.dataTransfer?.getData('application/x-shelf-picture')
  if (a && a !== b) void bench.act({ act: 'swapPictures', a, b })
  else if (picture) void bench.act({ act: 'show', item: b, picture })
}

function toggle(id: string) {
  if (!several.value) return
  several.value = several.value.includes(id) ? several.value.filter((other) => other !== id) : [...several.value, id].slice(0, 12)
}

function pick(event: DragEvent, id: string) {
  event.dataTransfer?.setData('application/x-shelf-picture', id)
}
</script>

<template>
  <section aria-labelledby="pictures-title">
    <div class="panel-head">
      <h2 id="pictures-title">Pictures</h2>
      <button v-if="what === 'pictures'" class="act" @click="addFrame"><Plus :size="14" />Empty frame</button>
    </div>
    <p v-if="bench.replacing" class="instead" role="status">
      What you choose comes in the place of what you removed. <button @click="bench.replacing = null">Never mind</button>
    </p>
    <ElSegmented
      v-model="what"
      class="what"
      :options="[
        { value: 'pictures', label: 'Photographs' },
        { value: 'graphics', label: 'Graphics' },
      ]"
      aria-label="Photographs or graphics"
      block />
    <GraphicsShelf v-if="what === 'graphics'" />
    <template v-else>
      <h3>Frames on this side</h3>
      <div class="row-of">
        <p v-if="!frames.length" class="quiet">No frame yet. Choose a picture from the shelf and it arrives in a frame of its own.</p>
        <ul class="frames">
          <li v-for="p in frames" :key="p.item.id">
            <button
              :aria-pressed="bench.selection.includes(p.item.id)"
              :aria-label="pictureOf(p) ? 'Frame with a picture' : 'Empty frame'"
              draggable="true"
              title="Drag onto another frame to exchange pictures"
              @dragstart="$event.dataTransfer?.setData('application/x-frame', p.item.id)"
              @dragover.prevent
              @drop.prevent="exchange($event, p.item.id)"
              @click="bench.selection = [p.item.id]">
              <img v-if="pictureOf(p)" :src="api.media(pictureOf(p)!, 160)" alt="" draggable="false" />
              <span v-else class="quiet">empty</span>
            </button>
          </li>
        </ul>
      </div>
      <div class="panel-head shelf">
        <h3>Shelf</h3>
        <button class="act" @click="dialog.open()"><ImagePlus :size="15" />Bring pictures</button>
        <input ref="file" type="file" class="visually-hidden" tabindex="-1" aria-label="Bring picture files" />
      </div>
      <div class="row">
        <button class="act" :aria-pressed="several !== null" @click="several = several ? null : []">
          {{ several ? 'Done choosing' : 'Arrange several' }}
        </button>
        <span v-if="several" class="quiet">{{ several.length < 2 ? 'Choose 2 to 12.' : `${several.length} chosen` }}</span>
      </div>
      <SwapSwitch :on="target !== null && !several" what="picture" />
      <p class="quiet note">
        {{
          several
            ? 'The arrangements are at the right.'
            : waiting.length > 1
              ? `Fills ${waiting.length} selected frames in turn.`
              : waiting.length
                ? 'Fills the selected frame.'
                : 'What you choose arrives as a new item.'
        }}
      </p>
      <p v-if="shelf.uploading" role="status">Taking in {{ shelf.uploading === 1 ? 'a picture' : `${shelf.uploading} pictures` }}…</p>
      <ul class="pictures">
        <li v-for="card in shelf.pictures" :key="card.id">
          <button
            draggable="true"
            :data-picture="card.id"
            :title="`${card.name}, ${card.width} × ${card.height} px`"
            :aria-label="`${several?.includes(card.id) ? `${several.indexOf(card.id) + 1}, ` : ''}${card.name}, ${card.width} by ${card.height} pixels`"
            @dragstart="pick($event, card.id)"
            :aria-pressed="several ? several.includes(card.id) : undefined"
            @click="several ? toggle(card.id) : choose(card.id)">
            <b v-if="several?.includes(card.id)" class="place">{{ several.indexOf(card.id) + 1 }}</b>
            <img :src="api.media(card.id, 320)" alt="" loading="lazy" draggable="false" />
          </button>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.instead {
  margin-bottom: 8px;
  padding: 8px 10px;
  border-left: 3px solid var(--rule-strong);
  background: var(--paper-2);
  font-size: var(--text-1);
}

.instead button {
  text-decoration: underline;
  text-underline-offset: 3px;
}

.panel-head.shelf {
  margin: 18px 0 6px;
}

.row {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 10px;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

.pictures button {
  position: relative;
}

.place {
  position: absolute;
  left: 4px;
  top: 4px;
  min-width: 20px;
  padding: 0 4px;
  background: var(--ink);
  color: var(--paper);
  font-size: var(--text-1);
  line-height: 20px;
  text-align: center;
}

.what {
  margin-bottom: 12px;
}

.what :deep(.el-segmented__item) {
  padding: 0 4px;
}

.note {
  margin-bottom: 10px;
  font-size: var(--text-1);
}

/* One row, however many: what is chosen below stays under the pointer. */
.row-of {
  height: 66px;
  margin: 2px -6px 0;
  overflow: auto hidden;
}

.row-of p {
  padding: 4px 6px;
}

.frames {
  display: flex;
  gap: 6px;
  padding: 4px 6px;
}

.frames li {
  flex: none;
}

.frames button {
  display: grid;
  place-items: center;
  width: 56px;
  height: 56px;
  background: var(--paper-3);
  font-size: var(--text-1);
}

.frames button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}

.frames img,
.pictures img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  display: block;
}

.pictures {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
}

.pictures button {
  display: block;
  width: 100%;
  aspect-ratio: 1;
}

.pictures button:hover {
  outline: 2px solid var(--ink);
}
</style>
