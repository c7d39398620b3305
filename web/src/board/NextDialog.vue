<script setup lang="ts">
import { ElDialog, ElInput, ElRadioButton, ElRadioGroup } from 'element-plus'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import type { Asked, JobCard, NextCard, Pace } from '../generated/types'
import { useNotices } from '../stores/notices'

/** The next of a series: the words that change are asked for, with those that are likely filled in. */
const job = defineModel<JobCard | null>({ required: true })
const router = useRouter()
const notices = useNotices()

const pace = ref<Pace>('month')
const card = ref<NextCard | null>(null)
const title = ref('')
const words = ref<Record<string, string>>({})
const making = ref(false)

watch([job, pace], async ([now, step], [before]) => {
  // Of another job nothing stays; of the same one what was typed does.
  if (now !== before) card.value = null
  if (!now) return
  try {
    const found = await api.next(now.id, step)
    if (now !== job.value || step !== pace.value) return
    const last = card.value?.next
    const typed = (one: { kin: string }) =>
      last?.words.some((other) => other.kin === one.kin && other.next !== words.value[other.kin]) ?? false
    words.value = Object.fromEntries(found.next.words.map((one) => [one.kin, typed(one) ? words.value[one.kin]! : one.next]))
    if (!last || last.title === title.value) title.value = found.next.title
    card.value = found
  } catch (error) {
    notices.report(error)
  }
})

const why: Record<Asked, string> = { date: 'Date', time: 'Time', price: 'Price', marked: 'Changes each time' }
/** Words with a date in them say so when the date stays the same. */
const moves = () => card.value?.next.words.some((one) => one.why === 'date') ?? false

async function make(anew: boolean) {
  if (!job.value || making.value) return
  making.value = true
  try {
    const made = await api.makeNext(job.value.id, anew ? { title: title.value, words: words.value } : { words: {} })
    job.value = null
    await router.push({ name: 'bench', params: { job: made.id } })
  } catch (error) {
    notices.report(error)
  } finally {
    making.value = false
  }
}
</script>

<template>
  <ElDialog
    :model-value="job !== null"
    :title="`The next of “${job?.title ?? ''}”`"
    width="520px"
    append-to-body
    @update:model-value="job = null">
    <form v-if="card" class="next-job" @submit.prevent="make(true)">
      <p class="quiet">
        Sizes, pictures and look stay as they are. What follows changes from one to the next; everything else can be changed on the bench.
      </p>
      <ElRadioGroup v-if="moves()" v-model="pace" size="small" aria-label="How much later">
        <ElRadioButton v-for="step in card.steps" :key="step.step" :value="step.step">{{ step.name }}</ElRadioButton>
      </ElRadioGroup>
      <label><span>Title</span><ElInput v-model="title" name="title" /></label>
      <label v-for="one in card.next.words" :key="one.kin">
        <span
          >{{ why[one.why] }}<small v-if="one.now !== words[one.kin]" class="quiet">was “{{ one.now }}”</small></span
        >
        <ElInput v-model="words[one.kin]" type="textarea" :autosize="{ minRows: 1, maxRows: 4 }" resize="none" :name="one.part" />
      </label>
      <p v-if="!card.next.words.length" class="quiet">
        No date, time or price was found in it. On the bench, the menu of the right button marks words to be asked for next time.
      </p>
      <div class="deeds">
        <button class="link" type="button" :disabled="making" @click="make(false)">Just an exact copy</button>
        <button class="act next" type="submit" :disabled="making || !title.trim()">Make it</button>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
.next-job {
  display: grid;
  gap: 14px;
}

label {
  display: grid;
  gap: 4px;
}

label > span {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 12px;
  font-weight: 500;
}

small {
  overflow: hidden;
  font-size: var(--text-1);
  font-weight: 400;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.deeds {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
</style>
