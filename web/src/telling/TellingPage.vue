<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useMe } from '@/access/useMe'
import PartsBar from '@/frame/PartsBar.vue'
import { useInAddress } from '@/window/useInAddress'
import ChannelList from './ChannelList.vue'
import MessageList from './MessageList.vue'
import PeopleOnDuty from './PeopleOnDuty.vue'
import RuleList from './RuleList.vue'
import { providePlan } from './usePlan'

/** Who is told of what, by what, and what became of it. */
const part = useInAddress('part', 'messages')
const { may, whole } = useMe()
const shapes = () => may('shape') && whole()
const parts = computed(() => [
  { key: 'messages', words: 'messages' },
  ...(shapes()
    ? [
        { key: 'rules', words: 'who is told of what' },
        { key: 'people', words: 'people, duties, heartbeats' },
        { key: 'channels', words: 'channels' },
      ]
    : []),
])
const { changed, failure, refused, save, undo } = providePlan(shapes)
</script>

<template>
  <section aria-label="Telling">
    <PartsBar v-model="part" :parts="parts" />
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <div v-if="changed" class="unsaved" role="status">
      <span>Changed, and not saved: what was set before holds still.</span>
      <ElButton type="primary" @click="save">Save who is told</ElButton>
      <ElButton @click="undo">Undo the changes</ElButton>
      <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
    </div>
    <RuleList v-if="part === 'rules' && shapes()" />
    <PeopleOnDuty v-else-if="part === 'people' && shapes()" />
    <ChannelList v-else-if="part === 'channels' && shapes()" />
    <MessageList v-else />
  </section>
</template>

<style scoped>
.unsaved {
  position: sticky;
  top: 0;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  padding: 8px 12px;
  margin-bottom: 12px;
  border: 1px solid var(--plum);
  border-radius: 4px;
  background: var(--card);
}
.unsaved :deep(.el-button + .el-button) {
  margin-left: 0;
}
.unsaved p {
  width: 100%;
}
</style>
