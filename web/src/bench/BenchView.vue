<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, onUnmounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import BenchBar from './BenchBar.vue'
import BesideSheet from './BesideSheet.vue'
import PieceRail from './PieceRail.vue'
import ItemCard from './ItemCard.vue'
import RepeatPanel from '../adapt/RepeatPanel.vue'
import LayoutPanel from '../arrange/LayoutPanel.vue'
import DesignPanel from '../look/DesignPanel.vue'
import LookPanel from '../look/LookPanel.vue'
import PictureArrange from '../pictures/PictureArrange.vue'
import PicturesPanel from '../pictures/PicturesPanel.vue'
import FamilyPanel from '../edit/FamilyPanel.vue'
import LockUpPanel from '../edit/LockUpPanel.vue'
import WordsPanel from '../edit/WordsPanel.vue'
import StageView from '../stage/StageView.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'

/** Opened seldom and large: it comes when it is wanted. */
const Darkroom = defineAsyncComponent(() => import('../darkroom/Darkroom.vue'))
const props = defineProps<{ job: string; step?: string }>()
const bench = useBench()
const shelf = useShelf()
const notices = useNotices()
const router = useRouter()
const stage = ref<InstanceType<typeof StageView>>()
const step = computed(() => props.step || bench.step)
watch(
  step,
  (now) => {
    bench.step = now
  },
  { immediate: true },
)
const isWords = computed(() => bench.selected.length > 0 && bench.selected.every((p) => p.content.kind === 'words'))
const besides = computed(() => bench.beside !== null && bench.job?.pieces.some((one) => one.id === bench.beside))
// What was open to choose from belongs to what was selected.
watch(isWords, (now) => {
  if (!now && (bench.chooser === 'families' || bench.chooser === 'lockUps')) bench.chooser = null
})
watch(step, () => {
  bench.chooser = null
})

onMounted(async () => {
  void shelf.load()
  try {
    if (bench.job?.id !== props.job) {
      bench.close()
      if (props.step) bench.step = props.step
    }
    await bench.open(props.job)
  } catch (error) {
    notices.report(error)
    await router.push({ name: 'board' })
  }
})
onUnmounted(() => {
  bench.typing = bench.cropping = null
})
</script>

<template>
  <div class="bench">
    <BenchBar :step="step" :job="job" />
    <div v-if="bench.job" class="work">
      <div class="panel scroll">
        <FamilyPanel v-if="bench.chooser === 'families' && isWords" />
        <LockUpPanel v-else-if="bench.chooser === 'lockUps' && isWords && bench.only" :plain="bench.only" />
        <DesignPanel v-else-if="bench.chooser === 'designs'" />
        <RepeatPanel v-else-if="bench.chooser === 'repeat'" />
        <WordsPanel v-else-if="step === 'words'" />
        <PicturesPanel v-else-if="step === 'pictures'" />
        <LayoutPanel v-else-if="step === 'layout'" />
        <LookPanel v-else />
      </div>
      <div class="stages" :class="{ paired: besides }">
        <StageView ref="stage" />
        <BesideSheet v-if="besides" />
      </div>
      <aside v-if="bench.arranging && bench.arranging.length > 1" class="forms scroll" aria-label="Arrangements of the chosen pictures">
        <h2>Arrangements</h2>
        <PictureArrange :pictures="bench.arranging" @done="bench.arranging = null" />
      </aside>
      <ItemCard v-else @zoom="stage?.zoomPicture($event)" />
    </div>
    <PieceRail v-if="bench.job" />
    <Darkroom
      v-if="bench.darkroom && bench.plain(bench.darkroom.item)"
      :key="bench.darkroom.group ?? bench.darkroom.item"
      :item="bench.darkroom.item"
      :group="bench.darkroom.group" />
  </div>
</template>

<style scoped>
.bench {
  height: 100%;
  display: grid;
  grid-template-rows: var(--bar) minmax(0, 1fr) var(--rail);
}

.work {
  display: grid;
  grid-template-columns: var(--panel) minmax(0, 1fr) var(--card);
  min-height: 0;
}

.stages {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}

.stages.paired {
  grid-template-columns: minmax(0, 1fr) clamp(220px, 32%, 420px);
}

.forms {
  display: grid;
  align-content: start;
  gap: 12px;
  padding: 12px 14px 24px;
  background: var(--paper);
  border-left: 1px solid var(--rule);
}

.panel {
  padding: 14px 14px 24px;
  background: var(--paper);
  border-right: 1px solid var(--rule);
}

@media (max-width: 1100px) {
  .work {
    grid-template-columns: 236px minmax(0, 1fr) 236px;
  }
}
</style>
