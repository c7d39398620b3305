<script setup lang="ts">
import { Link2, X } from '@lucide/vue'
import { computed } from 'vue'
import type { Anchor, BoxEdge, Tie } from '../generated/types'
import { toFine } from '../measures'
import { useBench, type Plain } from '../stores/bench'
import ActMenu from '../parts/ActMenu.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import MeasureField from '../parts/MeasureField.vue'

/** What keeps holding between this item and the sheet or others. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()

const id = computed(() => props.plain.item.id)
const ties = computed(() => props.plain.item.ties ?? [])
const format = computed(() => bench.piece!.format)

const drop = (index: number) => void bench.act({ act: 'dropTie', item: id.value, index })

const add = (tie: Tie) => bench.act({ act: 'tie', item: id.value, tie })

function nameOf(item: string): string {
  const name = bench.names.get(item)
  return name ? `“${name.slice(0, 24)}”` : 'something that is gone'
}
const anchorName = (of: Anchor) => (of === 'sheet' ? 'the sheet' : nameOf(of.item))
const edgeNames: Record<BoxEdge, string> = { left: 'left', top: 'top', right: 'right', bottom: 'bottom' }
const beside: Record<BoxEdge, string> = { left: 'right of', right: 'left of', top: 'below', bottom: 'above' }

function say(tie: Tie): string {
  switch (tie.tie) {
    case 'centre':
      return `${tie.direction === 'across' ? 'In the middle across' : 'In the middle down'} of ${anchorName(tie.of)}`
    case 'gap':
      return tie.of === 'sheet'
        ? `From the ${edgeNames[tie.edge]} edge of the sheet`
        : `${beside[tie.edge][0]!.toUpperCase()}${beside[tie.edge].slice(1)} ${anchorName(tie.of)}`
    case 'opposite':
      return `Opposite ${nameOf(tie.of)}${tie.mirrored ? ', mirrored' : ''}`
    case 'asLong':
      return `As ${tie.direction === 'across' ? 'wide' : 'high'} as ${nameOf(tie.of)}, and more by`
    case 'spot':
      return `On a spot of ${nameOf(tie.of)}`
    case 'over':
      return `Exactly over ${nameOf(tie.of)}`
    case 'between':
      return `From ${nameOf(tie.from)} to ${nameOf(tie.to)}`
  }
}

const point = (say: string, take: (other: string) => void) =>
  bench.point({
    say,
    what: 'item',
    take: (other) => {
      bench.selection = [id.value]
      if (other !== id.value) take(other)
    },
  })

const offers: Record<string, { name: string; run: () => void; apart?: boolean }> = {
  middleAcross: { name: 'Stays in the middle of the sheet, across', run: () => add({ tie: 'centre', direction: 'across', of: 'sheet' }) },
  middleDown: { name: 'Stays in the middle of the sheet, down', run: () => add({ tie: 'centre', direction: 'down', of: 'sheet' }) },
  ...Object.fromEntries(
    (['left', 'top', 'right', 'bottom'] as BoxEdge[]).map((edge) => [
      edge,
      { name: `Keeps its distance from the ${edge} edge`, run: () => add({ tie: 'gap', edge, of: 'sheet', gap: 0 }) },
    ]),
  ),
  onAcross: {
    name: 'Stays in the middle of an item, across…',
    run: () => point('Point at the item it stays in the middle of.', (item) => add({ tie: 'centre', direction: 'across', of: { item } })),
  },
  onDown: {
    name: 'Stays in the middle of an item, down…',
    run: () => point('Point at the item it stays in the middle of.', (item) => add({ tie: 'centre', direction: 'down', of: { item } })),
  },
  ...Object.fromEntries(
    (['top', 'bottom', 'left', 'right'] as BoxEdge[]).map((edge) => [
      `item-${edge}`,
      {
        name: `Stays ${beside[edge]} an item…`,
        run: () => point(`Point at the item it stays ${beside[edge]}.`, (item) => add({ tie: 'gap', edge, of: { item }, gap: 0 })),
      },
    ]),
  ),
  wide: {
    name: 'As wide as an item or its words…',
    run: () => point('Point at what it is to be as wide as.', (of) => add({ tie: 'asLong', direction: 'across', of, extra: 0 })),
  },
  high: {
    name: 'As high as an item or its words…',
    run: () => point('Point at what it is to be as high as.', (of) => add({ tie: 'asLong', direction: 'down', of, extra: 0 })),
  },
}

const makes: Record<string, { name: string; run: () => void }> = {
  corner: { name: 'Repeat in the opposite corner of the sheet', run: () => opposite(true, true, false) },
  mirrorAcross: { name: 'Mirror to the other side of the sheet', run: () => opposite(true, false, true) },
  mirrorDown: { name: 'Mirror from top to bottom of the sheet', run: () => opposite(false, true, true) },
  mirrorCorner: { name: 'Mirror to the opposite corner of the sheet', run: () => opposite(true, true, true) },
  line: { name: 'Line to another item…', run: () => connect(false) },
  arrow: { name: 'Arrow to another item…', run: () => connect(true) },
}

const isPicture = computed(() => props.plain.content.kind === 'picture' && !!props.plain.content.picture)

async function opposite(across: boolean, down: boolean, mirrored: boolean) {
  const response = await bench.act({ act: 'opposite', item: id.value, across, down, mirrored })
  if (response) bench.selection = response.made
}

function connect(arrow: boolean) {
  const from = id.value
  bench.point({
    say: `Point at where the ${arrow ? 'arrow' : 'line'} ends.`,
    what: 'item',
    take: (to) =>
      void bench.act({ act: 'connect', from, to, arrow, ...bench.last() }).then((response) => {
        if (response) bench.selection = response.made
      }),
  })
}

function callOut() {
  const picture = id.value
  bench.point({
    say: 'Point at the spot of the picture.',
    what: 'spot',
    take: (_, at) =>
      void bench.act({ act: 'callOut', picture, at: { x: toFine(at.x), y: toFine(at.y) }, ...bench.last() }).then((response) => {
        if (response?.made[0]) void bench.type(response.made[0])
      }),
  })
}

const entries = (from: Record<string, { name: string }>) => Object.entries(from).map(([value, { name }]) => ({ value, name }))

const measured = (tie: Tie): number | null => (tie.tie === 'gap' ? tie.gap : tie.tie === 'asLong' ? tie.extra : null)
const measure = (index: number, length: number) => void bench.act({ act: 'setTieLength', item: id.value, index, length })
</script>

<template>
  <FoldGroup name="ties" title="Lasting ties" :says="ties.length ? String(ties.length) : ''">
    <ul v-if="ties.length">
      <li v-for="(tie, i) in ties" :key="i">
        <Link2 :size="14" aria-hidden="true" />
        <span>{{ say(tie) }}</span>
        <MeasureField
          v-if="measured(tie) !== null"
          label="Distance"
          short=""
          :value="measured(tie)!"
          :unit="format.unit"
          :ppi="format.ppi"
          @change="measure(i, $event)" />
        <button class="tool" :aria-label="`Let go: ${say(tie)}`" data-tip="Let go" @click="drop(i)"><X :size="14" /></button>
      </li>
    </ul>
    <ActMenu label="Tie it" :entries="entries(offers)" @done="offers[$event]?.run()">Tie it…</ActMenu>
    <ActMenu label="Linked with it" :entries="entries(makes)" @done="makes[$event]?.run()">Add something linked…</ActMenu>
    <button v-if="isPicture" class="act" @click="callOut">Call-out on a spot…</button>
  </FoldGroup>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 6px;
  font-size: var(--text-1);
}

li :deep(.measure) {
  width: 84px;
  grid-template-columns: 0 minmax(0, 1fr);
}

li .tool {
  width: 24px;
  height: 24px;
}
</style>
