<script setup lang="ts">
import { computed } from 'vue'
import type { Ink, InkKind } from '../generated/types'
import ChoiceField from '../parts/ChoiceField.vue'
import DraftField from '../parts/DraftField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** What the colours of a job are printed with, where somebody says so. */
const bench = useBench()
const notices = useNotices()

const swatches = computed(() => Object.entries(bench.job?.swatches ?? {}).flatMap(([id, swatch]) => (swatch ? [{ id, ...swatch }] : [])))
const said = computed(() => swatches.value.filter((swatch) => swatch.ink).length)
const ways = [
  { value: 'none', name: 'As the profile has it' },
  { value: 'process', name: 'So much of each ink' },
  { value: 'spot', name: 'An ink of its own' },
]
const set = (id: string, ink: Ink | null) => void bench.act({ act: 'setInk', id, ink })

function choose(id: string, way: string) {
  if (way === 'none') set(id, null)
  else void bench.act({ act: 'giveInk', id, kind: way as InkKind })
}
const shares = (ink: Ink) => (ink.kind === 'process' ? `${ink.c} ${ink.m} ${ink.y} ${ink.k}` : '')
function type(id: string, typed: string) {
  const [c, m, y, k, ...more] = typed
    .split(/[\s,/]+/)
    .filter(Boolean)
    .map((part) => Number(part.replace('%', '')))
  if ([c, m, y, k].some((share) => share === undefined || !Number.isInteger(share)) || more.length)
    return notices.say('Type four whole numbers from 0 to 100: cyan, magenta, yellow, black. The last good ones stay.', { trouble: true })
  set(id, { kind: 'process', c: c!, m: m!, y: y!, k: k! })
}
</script>

<template>
  <FoldGroup v-if="swatches.length" name="inks" title="Printed with" :says="said ? `${said} said` : ''">
    <ul>
      <li v-for="swatch in swatches" :key="swatch.id">
        <b><i :style="{ background: swatch.color }" />{{ swatch.name }}</b>
        <ChoiceField
          :label="`${swatch.name} is printed with`"
          hide-label
          :value="swatch.ink?.kind ?? 'none'"
          :choices="ways"
          @done="choose(swatch.id, $event)" />
        <DraftField
          v-if="swatch.ink?.kind === 'process'"
          :value="shares(swatch.ink)"
          :aria-label="`Cyan, magenta, yellow and black of ${swatch.name}`"
          @done="type(swatch.id, $event)" />
        <DraftField
          v-else-if="swatch.ink?.kind === 'spot'"
          :value="swatch.ink.name"
          :aria-label="`Name of the ink of ${swatch.name}`"
          maxlength="60"
          @done="set(swatch.id, { kind: 'spot', name: $event })" />
      </li>
    </ul>
  </FoldGroup>
</template>

<style scoped>
ul {
  display: grid;
  gap: 10px;
}

li {
  display: grid;
  gap: 4px;
}

b {
  font-weight: 600;
}

i {
  display: inline-block;
  width: 22px;
  height: 12px;
  margin-right: 8px;
  vertical-align: -1px;
  border: 1px solid var(--rule-strong);
}
</style>
