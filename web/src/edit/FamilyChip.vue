<script setup lang="ts">
import { computed } from 'vue'
import { useBench } from '../stores/bench'
import { useShelf } from '../stores/shelf'

/** The family there is; a press opens the specimens beside the stage. */
const props = defineProps<{ family: string }>()
const bench = useBench()
const shelf = useShelf()
const found = computed(() => shelf.families.find((family) => family.family === props.family))
const open = computed(() => bench.chooser === 'families')
</script>

<template>
  <button class="chip" :aria-label="`Family: ${family}`" :aria-expanded="open" @click="bench.chooser = open ? null : 'families'">
    {{ family }}<small v-if="shelf.families.length && !found">not at hand; Work Sans stands in</small
    ><small v-else-if="found?.own === 'restricted'">embedding restricted</small>
  </button>
</template>

<style scoped>
.chip {
  width: 100%;
  height: 30px;
  padding: 0 8px;
  border-radius: 3px;
  background: var(--paper);
  box-shadow: 0 0 0 1px var(--rule) inset;
  text-align: left;
}

.chip:hover {
  box-shadow: 0 0 0 1px var(--rule-strong) inset;
}

.chip[aria-expanded='true'] {
  box-shadow: 0 0 0 2px var(--ink) inset;
}

small {
  display: block;
  margin-top: -3px;
  font-size: 10px;
  line-height: 1.1;
  color: var(--madder);
}
</style>
