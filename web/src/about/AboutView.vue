<script setup lang="ts">
import { ArrowLeft } from '@lucide/vue'
import { computed, onMounted, ref } from 'vue'
import { api } from '../api/client'
import type { AboutCard, MadeKind } from '../generated/types'
import { useNotices } from '../stores/notices'

const notices = useNotices()
const about = ref<AboutCard | null>(null)

onMounted(async () => {
  try {
    about.value = await api.about()
  } catch (error) {
    notices.report(error)
  }
})

const names: Record<MadeKind, string> = {
  program: 'The program',
  typeface: 'Typefaces',
  words: 'Word lists',
  graphics: 'Graphics',
  profile: 'Profile of inks',
}
const groups = computed(() =>
  (Object.keys(names) as MadeKind[]).map((kind) => ({
    kind,
    name: names[kind],
    made: about.value?.made.filter((one) => one.kind === kind) ?? [],
  })),
)
</script>

<template>
  <main class="about scroll">
    <RouterLink class="link" :to="{ name: 'board' }"><ArrowLeft :size="15" />All jobs</RouterLink>
    <h1>About Vatman</h1>
    <template v-if="about">
      <p class="quiet">Version {{ about.version }}. It runs on this machine alone and sends nothing anywhere.</p>
      <section v-for="group in groups" :key="group.kind">
        <h2>{{ group.name }}</h2>
        <ul>
          <li v-for="one in group.made" :key="one.name + one.licence">
            <span>{{ one.name }}</span>
            <a v-if="one.text" class="link" :href="api.licence(one.text)" target="_blank">{{ one.licence }}</a>
            <span v-else class="quiet">{{ one.licence }}</span>
          </li>
        </ul>
      </section>
    </template>
  </main>
</template>

<style scoped>
.about {
  height: 100%;
  padding: 24px 32px 48px;
}

.about > * {
  max-width: 900px;
  margin-inline: auto;
}

.about > .link {
  display: flex;
  align-items: center;
  gap: 6px;
}

h1 {
  margin-block: 16px 4px;
}

h2 {
  margin: 24px 0 6px;
}

ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(400px, 1fr));
  column-gap: 32px;
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
