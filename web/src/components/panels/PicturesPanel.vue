<script setup lang="ts">
import { ImagePlus, Plus } from '@lucide/vue'
import { computed, ref } from 'vue'
import { api } from '../../api/client'
import { useBench, type Plain } from '../../stores/bench'
import { useShelf } from '../../stores/shelf'
import GraphicsShelf from './GraphicsShelf.vue'
import PictureArrange from './PictureArrange.vue'

/** The frames of this side and the shelf to fill them from. */
const emit = defineEmits<{ place: [picture: string] }>()
const bench = useBench()
const shelf = useShelf()
const file = ref<HTMLInputElement>()
/** Pictures chosen for one arrangement, in the order they were chosen; nothing while not choosing. */
const several = ref<string[] | null>(null)
const what = ref<'pictures' | 'graphics'>('pictures')

const frames = computed(() => [...bench.order].reverse().map((id) => bench.plain(id)).filter((p): p is Plain => p?.content.kind === 'picture'))
const pictureOf = (p: Plain) => (p.content.kind === 'picture' ? p.content.picture : null)
const target = computed(() => (bench.only?.content.kind === 'picture' ? bench.only : null))

async function upload(event: Event) {
  const field = event.target as HTMLInputElement
  const brought = await shelf.bring(field.files ?? [])
  field.value = ''
  if (brought[0] && target.value) emit('place', brought[0].id)
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
    <p v-if="bench.replacing" class="instead" role="status">What you choose comes in the place of what you removed. <button @click="bench.replacing = null">Never mind</button></p>
    <div class="what" role="tablist" aria-label="Pictures or graphics">
      <button role="tab" :aria-selected="what === 'pictures'" @click="what = 'pictures'">Photographs</button>
      <button role="tab" :aria-selected="what === 'graphics'" @click="what = 'graphics'">Graphics</button>
    </div>
    <GraphicsShelf v-if="what === 'graphics'" />
    <template v-else>
    <h3>Frames on this side</h3>
    <p v-if="!frames.length" class="quiet">No frame yet. Choose a picture from the shelf and it arrives in a frame of its own.</p>
    <ul class="frames">
      <li v-for="p in frames" :key="p.item.id">
        <button :aria-pressed="bench.selection.includes(p.item.id)" :aria-label="pictureOf(p) ? 'Frame with a picture' : 'Empty frame'" draggable="true" title="Drag onto another frame to exchange pictures" @dragstart="$event.dataTransfer?.setData('application/x-frame', p.item.id)" @dragover.prevent @drop.prevent="exchange($event, p.item.id)" @click="bench.selection = [p.item.id]">
          <img v-if="pictureOf(p)" :src="api.media(pictureOf(p)!, 160)" alt="" draggable="false" />
          <span v-else class="quiet">empty</span>
        </button>
      </li>
    </ul>
    <div class="panel-head shelf">
      <h3>Shelf</h3>
      <button class="act" @click="file?.click()"><ImagePlus :size="15" />Bring pictures</button>
      <input ref="file" type="file" class="visually-hidden" accept="image/png,image/jpeg,image/webp,image/gif" multiple tabindex="-1" aria-label="Bring picture files" @change="upload" />
    </div>
    <div class="row">
      <button class="act" :aria-pressed="several !== null" @click="several = several ? null : []">{{ several ? 'Done choosing' : 'Arrange several' }}</button>
      <span v-if="several" class="quiet">{{ several.length < 2 ? 'Choose 2 to 12 pictures.' : `${several.length} chosen` }}</span>
    </div>
    <PictureArrange v-if="several && several.length >= 2" :pictures="several" @done="several = null" />
    <p v-if="!several" class="quiet note">{{ target ? 'A picture you choose fills the selected frame.' : 'Nothing is selected: a picture you choose arrives as a new item.' }} Drop or paste works too.</p>
    <p v-if="shelf.uploading" role="status">Taking in {{ shelf.uploading === 1 ? 'a picture' : `${shelf.uploading} pictures` }}…</p>
    <ul class="pictures">
      <li v-for="card in shelf.pictures" :key="card.id">
        <button draggable="true" :data-picture="card.id" :title="`${card.name}, ${card.width} × ${card.height} px`" :aria-label="`${card.name}, ${card.width} by ${card.height} pixels`" @dragstart="pick($event, card.id)" :aria-pressed="several ? several.includes(card.id) : undefined" @click="several ? toggle(card.id) : emit('place', card.id)">
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
  display: flex;
  gap: 16px;
  margin-bottom: 12px;
  border-bottom: 1px solid var(--rule);
}

.what button {
  padding: 4px 0;
  color: var(--ink-2);
}

.what button[aria-selected='true'] {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px var(--ink);
}

.note {
  margin-bottom: 10px;
  font-size: var(--text-1);
}

.frames {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 6px;
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
