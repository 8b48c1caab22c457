<script setup lang="ts">
import { useMe } from '@/access/useMe'
import { computed } from 'vue'
import type { Instance } from '@/api/types'
import { isOwn } from '@/instances/kinds'
import { useInstances } from '@/instances/useInstances'
import { useLink } from '@/window/useLink'
import { usePicked } from '@/window/usePicked'
import JarGlyph from './JarGlyph.vue'
import { useAlerts } from '@/alerts/useAlerts'
import type { Standing } from './order'
import { factOf, isSilent, unreadInWords, useShelf } from './useShelf'

/** All jars, by site and group. */
const { instances: all, loaded } = useInstances()
const instances = computed(() => all.value.filter((instance) => !isOwn(instance)))
const { sites } = useShelf()
const { pick, toggle } = usePicked()
const { link } = useLink()
const { counts } = useAlerts()
const bare = computed(() => instances.value.filter((i) => !isSilent(i) && !i.state.jar).length)

/** The more there are, the smaller they stand: of many only those that depart from calm say more than their name. */
const size = computed(() =>
  all.value.length <= 12 ? 'large' : all.value.length <= 60 ? 'middle' : 'small',
)
const HEIGHT = { large: 68, middle: 52, small: 30 }
const words = (instance: Instance, standing: Standing) =>
  standing.kind === 'calm' ? factOf(instance) : `${standing.sign} ${standing.fact}`
const fullness = (instance: Instance) =>
  instance.state.jar
    ? `${Math.round(instance.state.jar.share * 100)} % full: ${instance.state.jar.title.toLowerCase()}`
    : ''

const unread = computed(() => unreadInWords(instances.value))
const answering = computed(() => instances.value.filter((i) => i.state.state === 'reading').length)

function click(event: MouseEvent, id: number) {
  if (event.ctrlKey || event.metaKey) toggle(id)
  else pick([id])
}
const { may } = useMe()
</script>

<template>
  <section aria-label="Whole shelf">
    <p class="soft sum">
      {{ answering }} of {{ instances.length }} instances answer<template v-if="unread">
        · {{ unread }}</template
      >
      · {{ counts.critical }} critical, {{ counts.warning }}
      {{ counts.warning === 1 ? 'warning' : 'warnings'
      }}<template v-if="bare"> · {{ bare }} without a limit or a value to fill by</template>
    </p>
    <p v-if="loaded && instances.length === 0" class="soft">
      Nothing is under watch yet.
      <template v-if="may('shape')"
        >Add an instance on the left: a database engine needs its address and a role that may read
        its statistics, a JVM its address and JMX port.</template
      >
    </p>
    <section v-for="site in sites" :key="site.name" class="site">
      <h2>
        <RouterLink
          v-if="site.name"
          class="link"
          :to="link('/together', { whose: `site:${site.name}` })"
          :title="`all of ${site.name} side by side`"
          >{{ site.name }}</RouterLink><template v-else>No site</template>
      </h2>
      <div class="groups">
        <div v-for="group in site.groups" :key="group.name">
          <h3>
            <RouterLink
              v-if="group.name"
              class="link"
              :to="link('/together', { whose: `group:${group.name}` })"
              :title="`all of ${group.name} side by side`"
              >{{ group.name }}</RouterLink><template v-else>No group</template>{{ ' ' }}
            <span :class="group.reading < group.expected ? 'silent' : 'soft'"
              >{{ group.reading }} of {{ group.expected }}</span
            >
          </h3>
          <div class="jars" :class="size">
            <button
              v-for="{ instance, standing } in group.members"
              :key="instance.id"
              class="plain jar"
              type="button"
              :title="`${instance.name}: ${words(instance, standing)} · ${fullness(instance)}`"
              :aria-label="`${instance.name}: ${words(instance, standing)}`"
              @click="click($event, instance.id)"
            >
              <JarGlyph
                :silent="isSilent(instance)"
                :jar="instance.state.jar"
                :lid="standing.kind"
                :size="HEIGHT[size]"
              />
              <span v-if="size !== 'small' || standing.kind !== 'calm'" class="name">{{
                instance.name
              }}</span>
              <span
                v-if="size === 'large' || standing.kind !== 'calm'"
                class="fact"
                :class="standing.kind === 'calm' ? 'soft' : standing.kind"
                >{{ words(instance, standing) }}</span
              >
              <span
                v-if="size === 'large' && !isSilent(instance)"
                class="fact soft"
                title="its fullness: the tightest counter against its critical limit"
                >{{ fullness(instance) }}</span
              >
            </button>
          </div>
        </div>
      </div>
    </section>
  </section>
</template>

<style scoped>
.sum {
  padding-bottom: 16px;
}
.site {
  padding-bottom: 16px;
}
h2,
h3 {
  font-size: 14px;
}
h3 {
  padding: 8px 0;
  font-weight: 400;
}
.groups,
.jars {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
}
.jar {
  display: flex;
  flex-direction: column;
  align-items: center;
  width: 148px;
  padding: 8px 4px;
  border-radius: 4px;
  text-align: center;
}
.middle .jar {
  width: 92px;
  padding: 4px 2px;
}
.middle,
.small {
  gap: 4px;
}
.small .jar {
  width: auto;
  max-width: 96px;
  padding: 2px;
}
.middle .fact,
.small .fact {
  font-size: 11px;
  line-height: 1.25;
}
.jar:hover {
  background: var(--card);
}
.name {
  padding-top: 4px;
}
.fact {
  display: -webkit-box;
  overflow: hidden;
  font-size: 12px;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 4;
  line-clamp: 4;
}
</style>
