<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'

/**
 * A text field that keeps what is being typed, whatever the page draws anew meanwhile. `input` follows every letter, `done` comes once;
 * on leaving, the field shows the kept value again.
 */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ value: string; multiline?: boolean }>()
const emit = defineEmits<{ input: [text: string]; done: [text: string]; focus: [] }>()

const draft = ref(props.value)
let focused = false
/** Texts handed on that have not come back yet: their echo is no news. */
let handedOn: string[] = []

watch(() => props.value, (value) => {
  const echo = focused ? handedOn.lastIndexOf(value) : -1
  if (echo >= 0) handedOn = handedOn.slice(echo + 1)
  else {
    handedOn = []
    draft.value = value
  }
})

function enter() {
  focused = true
  handedOn = []
  emit('focus')
}

function leave() {
  focused = false
  if (!handedOn.length) draft.value = props.value
}

function type(event: Event) {
  draft.value = (event.target as HTMLInputElement).value
  handedOn.push(draft.value)
  emit('input', draft.value)
}

async function commit() {
  handedOn = []
  emit('done', draft.value)
  // What was refused gives way to the last good value at once.
  await nextTick()
  draft.value = props.value
}

/** Keys typed here are not for the stage; Escape is for whatever the field stands in. */
function key(event: KeyboardEvent) {
  if (event.key !== 'Escape') event.stopPropagation()
}
</script>

<template>
  <textarea v-if="multiline" v-bind="$attrs" class="field" :value="draft" @focus="enter" @blur="leave" @input="type" @change="commit" @keydown="key" />
  <input v-else v-bind="$attrs" class="field" :value="draft" spellcheck="false" @focus="enter" @blur="leave" @input="type" @change="commit" @keydown="key" />
</template>
