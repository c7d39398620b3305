<script setup lang="ts">
import { computed } from 'vue'
import type { StageBunch } from '../generated/types'
import { useBench } from '../stores/bench'
import SheetItem from './SheetItem.vue'
import { useReady } from './use-ready'

/** Items from one place of the order to another; those of a group that is drawn by itself are put down together. */
const props = defineProps<{ from: number; to: number; bunch?: StageBunch }>()
const bench = useBench()

type Entry = { key: string; item: string } | { key: string; bunch: StageBunch }
/** Single items, and the outermost bunches between them. */
const entries = computed<Entry[]>(() => {
  const own = props.bunch
  const inside = bench.bunches
    .slice(own ? bench.bunches.indexOf(own) + 1 : 0)
    .filter((one) => one.first >= props.from && one.first + one.count <= props.to)
  const out: Entry[] = []
  for (let at = props.from; at < props.to;) {
    const bunch = inside.find((one) => one.first === at)
    out.push(bunch ? { key: `bunch-${bunch.group}`, bunch } : { key: bench.order[at]!, item: bench.order[at]! })
    at = bunch ? bunch.first + bunch.count : at + 1
  }
  return out
})
const shown = useReady(
  () => props.bunch,
  () => props.bunch?.parts,
)
/** Whether something of it is selected: what is dragged is seen as it is drawn. */
const held = computed(() => !!props.bunch && bench.order.slice(props.from, props.to).some((id) => bench.selection.includes(id)))
</script>

<!-- eslint-disable vue/no-v-html -- as in SheetDrawing -->
<template>
  <g :id="bunch && `bunch-${bunch.group}`" :style="shown?.style" :class="{ held }">
    <g v-if="shown?.defs" v-html="shown.defs" />
    <g v-if="shown?.picture !== undefined" class="whole" v-html="shown.picture" />
    <g :class="{ members: shown?.picture !== undefined }">
      <template v-for="entry in entries" :key="entry.key">
        <SheetItem v-if="'item' in entry" :item="entry.item" />
        <SheetBunch v-else :from="entry.bunch.first" :to="entry.bunch.first + entry.bunch.count" :bunch="entry.bunch" />
      </template>
    </g>
  </g>
</template>

<style scoped>
/* Not seen, but there to be pressed. */
.members {
  opacity: 0;
}

:global(.moving .held > .members) {
  opacity: 1;
}

:global(.moving .held > .whole),
:global(.moving .behind > image) {
  visibility: hidden;
}
</style>
