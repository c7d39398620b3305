<script setup lang="ts">
import { ZoomIn, ZoomOut } from '@lucide/vue'
import { computed } from 'vue'
import { api } from '../../api/client'
import { useBench, type Plain } from '../../stores/bench'
import { useShelf } from '../../stores/shelf'

/** What a frame shows and how the picture sits in it. */
const props = defineProps<{ plain: Plain }>()
const emit = defineEmits<{ zoom: [factor: number] }>()
const bench = useBench()
const shelf = useShelf()

const picture = computed(() => (props.plain.content.kind === 'picture' ? props.plain.content.picture : null))
const card = computed(() => (picture.value ? shelf.picture(picture.value) : undefined))
const moving = computed(() => bench.cropping === props.plain.item.id)

function refit() {
  void bench.edit({ do: 'setPlace', item: props.plain.item.id, place: { ...props.plain.item.place, crop: null } })
}
</script>

<template>
  <section>
    <h3>Picture</h3>
    <template v-if="picture">
      <div class="shown">
        <img :src="api.media(picture, 160)" alt="" />
        <span>{{ card?.name ?? 'Picture' }}<small class="quiet">{{ card ? `${card.width} × ${card.height} px` : '' }}</small></span>
      </div>
      <div class="row">
        <button class="act" :aria-pressed="moving" @click="bench.cropping = moving ? null : plain.item.id">{{ moving ? 'Done' : 'Move in frame' }}</button>
        <template v-if="moving">
          <button class="tool" aria-label="Scale the picture down in its frame" @click="emit('zoom', 1 / 1.1)"><ZoomOut :size="16" /></button>
          <button class="tool" aria-label="Scale the picture up in its frame" @click="emit('zoom', 1.1)"><ZoomIn :size="16" /></button>
        </template>
        <button v-if="plain.item.place.crop" class="act" @click="refit">Fill again</button>
      </div>
    </template>
    <p v-else class="quiet">This frame is empty and will not leave in a file. Choose a picture under Pictures, drop one here or paste one.</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}

.shown {
  display: flex;
  gap: 10px;
  align-items: center;
}

img {
  width: 52px;
  height: 52px;
  object-fit: cover;
}

small {
  display: block;
}

.row {
  display: flex;
  gap: 4px;
  flex-wrap: wrap;
}
</style>
