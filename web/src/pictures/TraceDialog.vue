<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/client'
import type { DarkroomCard, TraceCard } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import ShareField from '../parts/ShareField.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** A picture as outlines, seen before it is done. */
const props = defineProps<{ item: string }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const notices = useNotices()
const offered = shallowRef<DarkroomCard | null>(null)
const colours = ref(1)
const smooth = ref(0)
const seen = shallowRef<TraceCard | null>(null)
const says = ref('')
const busy = ref(false)
const wish = () => ({ colours: colours.value, smooth: toRatio(smooth.value / 100) })

async function look() {
  busy.value = true
  try {
    seen.value = await api.traced(bench.job!.id, props.item, wish())
    says.value = `${seen.value.colours} ${seen.value.colours === 1 ? 'colour' : 'colours'}, ${seen.value.points.toLocaleString()} points`
  } catch (error) {
    seen.value = null
    says.value = error instanceof Error ? error.message : ''
  } finally {
    busy.value = false
  }
}
onMounted(async () => {
  try {
    offered.value = await api.darkroom()
    colours.value = offered.value.trace.colours
    smooth.value = Math.round((offered.value.trace.smooth / RATIO_WHOLE) * 100)
    await look()
  } catch (error) {
    notices.report(error)
    emit('close')
  }
})
async function take() {
  const response = await bench.act({ act: 'trace', item: props.item, wish: wish() })
  emit('close')
  if (response?.made.length) {
    bench.selection = response.made
    notices.say('Traced. The picture waits in the tray under Layout.', {
      action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
    })
  }
}
function lookIn(inColours: number, howSmooth: number) {
  colours.value = inColours
  smooth.value = howSmooth
  void look()
}
</script>

<template>
  <ElDialog :model-value="true" title="Trace into outlines" width="560" append-to-body @close="emit('close')">
    <div class="seen" :aria-busy="busy"><img v-if="seen" :src="seen.address" alt="The picture as outlines" :class="{ busy }" /></div>
    <p class="quiet" role="status">{{ busy ? 'Tracing…' : says }}</p>
    <ShareField
      label="Colours"
      :value="colours"
      :min="1"
      :max="offered?.most_colours ?? 12"
      unit=""
      @live="colours = $event"
      @done="lookIn($event, smooth)" />
    <ShareField label="Smooth" :value="smooth" @live="smooth = $event" @done="lookIn(colours, $event)" />
    <template #footer
      ><button class="act" @click="emit('close')">Never mind</button>
      <button class="act next" :disabled="!seen || busy" @click="take">Use the outlines</button></template
    >
  </ElDialog>
</template>

<style scoped>
.seen {
  display: grid;
  place-items: center;
  height: 300px;
  background: var(--paper-3);
}

img {
  max-width: 100%;
  max-height: 300px;
}

.busy {
  opacity: 0.5;
}
</style>
