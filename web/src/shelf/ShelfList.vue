<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ref } from 'vue'
import { kindOf, SIGN, titleOf } from '@/alerts/alert'
import { useAlerts } from '@/alerts/useAlerts'
import { isOwn } from '@/instances/kinds'
import { useInstances } from '@/instances/useInstances'
import { useKeys } from '@/keys/useKeys'
import { useLink } from '@/window/useLink'
import { usePicked } from '@/window/usePicked'
import JarGlyph from './JarGlyph.vue'
import { isPaused, type Group } from './order'
import { factOf, factParts, isSilent, useShelf } from './useShelf'

const emit = defineEmits<{ add: [] }>()
const { instances, loaded, failure } = useInstances()
const { sites, order, byName } = useShelf()
const { picked, pick, toggle } = usePicked()
const { link } = useLink()
const { headsOf } = useAlerts()
const unfolded = ref(new Set<string>())

/** A named group of several that is all calm folds, unless one of it is picked. */
function folds(site: string, group: Group) {
  return (
    group.name !== '' &&
    group.calm &&
    group.members.length > 1 &&
    !unfolded.value.has(`${site}/${group.name}`) &&
    !group.members.some((p) => picked.value.includes(p.instance.id))
  )
}

function click(event: MouseEvent, id: number) {
  if (event.ctrlKey || event.metaKey) toggle(id)
  else pick([id])
}

function step(by: 1 | -1) {
  const ids = order.value.map((i) => i.id)
  if (ids.length === 0) return
  const at = ids.indexOf(picked.value[0] ?? -1)
  const next = at < 0 ? (by === 1 ? 0 : ids.length - 1) : (at + by + ids.length) % ids.length
  pick([ids[next] as number])
}

useKeys({ '.': () => step(1), ',': () => step(-1) })
</script>

<template>
  <nav class="shelf" aria-label="Shelf">
    <p class="sort soft">
      Sort:
      <button class="link" type="button" :aria-pressed="!byName" @click="byName = false">
        worst first
      </button>
      ·
      <button class="link" type="button" :aria-pressed="byName" @click="byName = true">
        by name
      </button>
    </p>
    <p v-if="failure" class="hint warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="!loaded" class="hint soft">Fetching the instances …</p>
    <div v-else-if="instances.every(isOwn)" class="hint">
      <p>Nothing is under watch yet.</p>
      <p>
        <span v-may="'shape'"
          ><button class="link" type="button" @click="emit('add')">Add an instance</button> to
          begin.</span
        >
      </p>
    </div>
    <section v-for="site in sites" :key="site.name" :aria-label="site.name || 'No site'">
      <h2 class="site">
        <RouterLink
          v-if="site.name"
          class="link"
          :to="link('/together', { whose: `site:${site.name}` })"
          :title="`all of ${site.name} side by side`"
          >{{ site.name }}</RouterLink><span v-else>No site</span>
        <span :class="{ silent: site.reading < site.total }"
          >{{ site.reading }} of {{ site.total }}</span
        >
      </h2>
      <template v-for="group in site.groups" :key="group.name">
        <button
          v-if="folds(site.name, group)"
          class="plain group"
          type="button"
          @click="unfolded.add(`${site.name}/${group.name}`)"
        >
          {{ group.name || 'No group' }}
          <span :class="group.reading < group.expected ? 'silent' : 'soft'"
            >{{ group.reading }} of {{ group.expected }}</span
          >
        </button>
        <p v-else-if="group.name && group.expected > 1" class="head">
          <RouterLink
            class="link"
            :to="link('/together', { whose: `group:${group.name}` })"
            :title="`all of ${group.name} side by side`"
            >{{ group.name }}</RouterLink
          >
          <RouterLink
            v-if="group.reading < group.expected && headsOf(group.name)"
            class="link"
            :class="kindOf(headsOf(group.name)!)"
            :to="link('/alerts', { id: headsOf(group.name)!.id })"
            :title="titleOf(headsOf(group.name)!)"
            >{{ SIGN[kindOf(headsOf(group.name)!)] }} {{ group.reading }} of
            {{ group.expected }}</RouterLink
          >
          <span v-else :class="group.reading < group.expected ? 'silent' : 'soft'"
            >{{ group.reading }} of {{ group.expected }}</span
          >
        </p>
        <ul v-if="!folds(site.name, group)">
          <li v-for="{ instance, standing } in group.members" :key="instance.id">
            <button
              class="plain row"
              type="button"
              :class="{ picked: picked.includes(instance.id), departs: standing.kind !== 'calm' }"
              :aria-current="picked.includes(instance.id)"
              :title="`${instance.name}: ${standing.kind === 'calm' ? factOf(instance) : standing.fact} — click picks, Ctrl-click or Space adds`"
              @click="click($event, instance.id)"
              @keydown.space.prevent="toggle(instance.id)"
            >
              <JarGlyph
                :silent="isSilent(instance) || isPaused(instance)"
                :jar="instance.state.jar"
                :lid="standing.kind"
                :size="standing.kind === 'calm' ? 20 : 28"
              />
              <span class="name"
                >{{ instance.name }}
                <span v-if="standing.sign" :class="standing.kind">{{ standing.sign }}</span></span
              >
              <span v-if="standing.kind === 'calm'" class="fact soft">
                <span>{{ factParts(instance).value }}</span>
                <span>{{ factParts(instance).of }}</span>
              </span>
              <span v-else class="fact" :class="standing.kind">{{ standing.fact }}</span>
            </button>
          </li>
        </ul>
      </template>
    </section>
    <p v-if="instances.length" v-may="'shape'" class="add">
      <button class="link" type="button" @click="emit('add')">add an instance</button>
    </p>
  </nav>
</template>

<style scoped>
.shelf {
  overflow: hidden auto;
  width: 232px;
  padding-bottom: 12px;
  border-right: 1px solid var(--line);
}
.sort,
.hint,
.add {
  padding: 12px 12px 0;
}
.sort {
  font-size: 12px;
}
.sort [aria-pressed='false'] {
  color: var(--ink-soft);
}
.hint p {
  padding-bottom: 8px;
}
.site {
  display: flex;
  justify-content: space-between;
  padding: 16px 12px 4px;
  color: var(--ink-soft);
  font-size: 12px;
  font-weight: 400;
  letter-spacing: 0.03em;
  text-transform: uppercase;
}
.site span:last-child {
  text-transform: none;
}
ul {
  list-style: none;
}
.row {
  display: flex;
  align-items: center;
  width: 100%;
  min-height: 24px;
  gap: 8px;
  padding: 2px 12px;
  border-left: 4px solid transparent;
}
.row.departs {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 8px;
  padding-block: 4px;
}
.departs :deep(svg) {
  grid-row: 1 / 3;
}
.row:hover {
  background: var(--card);
}
.row.picked {
  border-left-color: var(--plum);
  background: var(--plum-soft);
}
.name {
  flex: none;
  max-width: 130px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.fact {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* of what it is stands before it where there is room: what wraps is not in sight */
.row:not(.departs) .fact {
  display: flex;
  flex-flow: row-reverse wrap;
  height: 17px;
  gap: 0 4px;
}
.fact span {
  flex: none;
}
.group {
  display: flex;
  justify-content: space-between;
  width: 100%;
  min-height: 24px;
  padding: 2px 12px 2px 16px;
}
.head {
  display: flex;
  justify-content: space-between;
  padding: 2px 12px 0 16px;
  color: var(--ink-soft);
  font-size: 12px;
}
.group:hover {
  background: var(--card);
}
</style>
