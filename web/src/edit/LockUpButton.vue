<script setup lang="ts">
import { computed } from 'vue'
import { useBench, type Plain } from '../stores/bench'

/** Whether the words are set as one block; a press opens all blocks beside the stage. */
defineProps<{ plain: Plain }>()
const bench = useBench()
const open = computed(() => bench.chooser === 'lockUps')
</script>

<template>
  <button class="act blocks" :aria-expanded="open" @click="bench.chooser = open ? null : 'lockUps'">
    {{ plain.look.type?.lockUp ? `One block, number ${plain.look.type.lockUp}` : 'Arrange as one block' }}
  </button>
</template>
