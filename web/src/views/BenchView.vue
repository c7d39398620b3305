<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import BenchBar from '../components/BenchBar.vue'
import PieceRail from '../components/PieceRail.vue'
import ItemCard from '../components/card/ItemCard.vue'
import LayoutPanel from '../components/panels/LayoutPanel.vue'
import LookPanel from '../components/panels/LookPanel.vue'
import PicturesPanel from '../components/panels/PicturesPanel.vue'
import WordsPanel from '../components/panels/WordsPanel.vue'
import StageView from '../components/stage/StageView.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useShelf } from '../stores/shelf'

const props = defineProps<{ job: string; step?: string }>()
const bench = useBench()
const shelf = useShelf()
const notices = useNotices()
const router = useRouter()
const stage = ref<InstanceType<typeof StageView>>()
const step = computed(() => props.step || 'words')

onMounted(async () => {
  void shelf.load()
  try {
    if (bench.job?.id !== props.job) bench.close()
    await bench.open(props.job)
  } catch (error) {
    notices.report(error)
    await router.push({ name: 'board' })
  }
})
onUnmounted(() => { bench.typing = bench.cropping = null })

</script>

<template>
  <div class="bench">
    <BenchBar :step="step" :job="job" />
    <div v-if="bench.job" class="work">
      <div class="panel scroll">
        <WordsPanel v-if="step === 'words'" />
        <PicturesPanel v-else-if="step === 'pictures'" @place="stage?.place($event)" />
        <LayoutPanel v-else-if="step === 'layout'" />
        <LookPanel v-else />
      </div>
      <StageView ref="stage" />
      <ItemCard @remove="stage?.remove()" @zoom="stage?.zoomPicture($event)" />
    </div>
    <PieceRail v-if="bench.job" />
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
