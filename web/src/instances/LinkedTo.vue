<script setup lang="ts">
import { computed } from 'vue'
import type { Instance } from '@/api/types'
import { usePicked } from '@/window/usePicked'
import { useInstances } from './useInstances'
import { usedOf, usersOf } from './uses'

/** What an instance uses and who uses it; a click picks that one, with Ctrl beside this one. */
const props = defineProps<{ instance: Instance }>()
const MOST = 4
const { instances } = useInstances()
const { picked, pick } = usePicked()
const uses = computed(() => usedOf(props.instance, instances.value))
const users = computed(() => usersOf(props.instance, instances.value))

const go = (id: number, event: MouseEvent) =>
  pick(event.ctrlKey || event.metaKey ? [...picked.value, id] : [id])
</script>

<template>
  <span v-if="uses.length" class="soft">
    · uses
    <template v-for="(use, i) in uses" :key="use.name"
      >{{ i ? ', ' : ''
      }}<button
        v-if="use.instance"
        class="link"
        type="button"
        :title="use.through ? `through ${use.through}` : undefined"
        @click="go(use.instance.id, $event)"
      >
        {{ use.name }}</button
      ><span v-else :title="'It is not under watch.'">{{ use.name }}</span></template
    >
  </span>
  <span v-if="users.length" class="soft">
    · used by
    <template v-for="(user, i) in users.slice(0, MOST)" :key="user.id"
      >{{ i ? ', ' : ''
      }}<button class="link" type="button" @click="go(user.id, $event)">
        {{ user.name }}
      </button></template
    ><template v-if="users.length > MOST"> and {{ users.length - MOST }} more</template>
  </span>
</template>
