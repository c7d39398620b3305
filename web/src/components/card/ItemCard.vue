<script setup lang="ts">
import { Copy, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import type { Look, Stroke, Tint } from '../../generated/types'
import { RATIO_WHOLE, toRatio } from '../../measures'
import { useBench } from '../../stores/bench'
import ColorPick from '../parts/ColorPick.vue'
import ShareField from '../parts/ShareField.vue'
import ContrastLine from './ContrastLine.vue'
import LineUp from './LineUp.vue'
import PictureFields from './PictureFields.vue'
import PlaceFields from './PlaceFields.vue'
import TypeFields from './TypeFields.vue'

/** The card of what is selected: only what it has. */
const emit = defineEmits<{ remove: []; duplicate: []; zoom: [factor: number] }>()
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

function setLook(change: (look: Look) => Look, continuing = false) {
  const commands = many.value.map((p) => ({ do: 'setLook' as const, target: bench.lookTarget(p), look: change(p.look) }))
  if (commands.length) void bench.edit({ do: 'all', commands }, continuing ? gesture : undefined)
}

const fillTint = computed<Tint | null>(() => {
  const fill = first.value?.look.fill
  if (!fill) return null
  return fill.kind === 'flat' ? fill.tint : (fill.stops[0]?.tint ?? null)
})
const fillOpacity = (look: Look) => (look.fill?.kind === 'flat' ? look.fill.opacity : RATIO_WHOLE)
const setFill = (tint: Tint | null, live: boolean) => setLook((look) => ({ ...look, fill: tint ? { kind: 'flat', tint, opacity: fillOpacity(look) } : null }), live)

const line = computed<Stroke | null>(() => first.value?.look.stroke ?? null)
const lineTint = computed<Tint | null>(() => (line.value?.paint.kind === 'flat' ? line.value.paint.tint : null))
function setLine(tint: Tint | null, live: boolean) {
  setLook((look) => ({ ...look, stroke: tint ? { paint: { kind: 'flat', tint, opacity: RATIO_WHOLE }, width: look.stroke?.width ?? 38_100 } : null }), live)
}

const hasFill = computed(() => many.value.length > 0 && many.value.every((p) => p.content.kind !== 'picture'))

/** Releases the look and words of this item from the other pieces, or shares them again. */
function release(own: boolean) {
  const p = only.value
  if (!p) return
  void bench.edit({ do: 'setRelease', item: p.item.id, release: own ? { content: p.content, look: p.look } : { content: null, look: null } })
}
</script>

<template>
  <aside class="card scroll" aria-label="What is selected" @pointerdown.capture="begin">
    <template v-if="first">
      <header>
        <h2>{{ title }}</h2>
        <button class="tool" aria-label="Duplicate" title="Duplicate" @click="emit('duplicate')"><Copy :size="16" /></button>
        <button class="tool" aria-label="Remove" title="Remove" @click="emit('remove')"><Trash2 :size="16" /></button>
      </header>
      <LineUp />
      <div v-if="only && shared > 1" class="sharing">
        <p>{{ only.ownContent || only.ownLook ? 'On its own: changes stay in this piece.' : `Words, picture and look are shared by ${shared} pieces.` }}</p>
        <button class="link" @click="release(!(only.ownContent || only.ownLook))">{{ only.ownContent || only.ownLook ? 'Share again' : 'Only here from now on' }}</button>
      </div>
      <TypeFields v-if="many.every((p) => p.content.kind === 'words')" :items="many" :set-look="setLook" />
      <PictureFields v-if="only && only.content.kind === 'picture'" :plain="only" @zoom="emit('zoom', $event)" />
      <section>
        <h3>Colour</h3>
        <ColorPick v-if="hasFill" :label="first.content.kind === 'words' ? 'Letters' : 'Fill'" :tint="fillTint" :none-label="first.content.kind === 'words' ? undefined : 'no fill'" @live="setFill($event, true)" @done="setFill($event, false)" @none="setFill(null, false)" />
        <ContrastLine v-if="only && only.content.kind === 'words'" :plain="only" />
        <ColorPick label="Line" :tint="lineTint" none-label="no line" @live="setLine($event, true)" @done="setLine($event, false)" @none="setLine(null, false)" />
        <ShareField label="Opacity" :value="(first.look.opacity / RATIO_WHOLE) * 100" @live="(v) => setLook((look) => ({ ...look, opacity: toRatio(v / 100) }), true)" @done="(v) => setLook((look) => ({ ...look, opacity: toRatio(v / 100) }), true)" />
      </section>
      <PlaceFields v-if="only" :plain="only" :line="line" :set-look="setLook" />
    </template>
    <div v-else class="nothing">
      <h2>{{ bench.piece?.name }}</h2>
      <p class="quiet">Nothing is selected. Click something on the sheet to change it; double-click words to type, a picture to move it in its frame.</p>
      <dl class="keys">
        <dt>Arrows</dt><dd>move by one, with Shift by ten</dd>
        <dt>Enter</dt><dd>edit what is selected</dd>
        <dt>Ctrl D</dt><dd>duplicate</dd>
        <dt>Delete</dt><dd>remove</dd>
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
