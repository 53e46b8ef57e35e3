<script setup lang="ts">
/** The chain from the shot to files on disk, branch by branch; a branch with something broken in it says so. */
import Column from 'primevue/column';
import TreeTable from 'primevue/treetable';
import { computed, ref, watch } from 'vue';
import type { ChainNode } from '../../../core/contracts/intake.ts';
import { fileSize, fileSeverity, fileState } from '../../file-words.ts';

const props = defineProps<{ nodes: ChainNode[]; find: string }>();
const chosen = defineModel<string | null>('chosen', { required: true });

const byId = computed(() => new Map(props.nodes.map((node) => [node.id, node])));
/** Worst state in each branch. */
const broken = computed(() => {
  const known = new Map<string, number>();
  const count = (id: string): number => {
    const before = known.get(id);
    if (before !== undefined) return before;
    const node = byId.value.get(id)!;
    const n = Number(node.state !== 'ok') + node.children.reduce((sum, child) => sum + count(child), 0);
    known.set(id, n);
    return n;
  };
  for (const { id } of props.nodes) count(id);
  return known;
});
const matches = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return null;
  const known = new Map<string, boolean>();
  const holds = (id: string): boolean => {
    const before = known.get(id);
    if (before !== undefined) return before;
    const node = byId.value.get(id)!;
    const text = `${node.label} ${node.kind} ${node.state}`.toLowerCase();
    const is = words.every((word) => text.includes(word)) || node.children.map(holds).some(Boolean);
    known.set(id, is);
    return is;
  };
  for (const { id } of props.nodes) holds(id);
  return known;
});

/** Branches by the way to them, for a node may hang below several. */
const open = ref(new Set<string>());
watch(
  () => props.nodes,
  ([root]) => {
    open.value = new Set(root ? [root.id] : []);
    if (root) for (const child of root.children) if (broken.value.get(child)) open.value.add(`${root.id}\n${child}`);
  },
  { immediate: true },
);
/** Children of one node that are listed. */
const MOST = 300;
const isOpen = (way: string): boolean => open.value.has(way) || matches.value !== null;

interface Branch {
  key: string;
  data: ChainNode;
  leaf: boolean;
  children: Branch[];
}
/** Children are made for branches that are open: a node may hang below several, and the whole tree may be endless. */
function branchOf(id: string, above: string): Branch {
  const node = byId.value.get(id)!;
  const key = above ? `${above}\n${id}` : id;
  // What is broken first, then what is heavy.
  const children = node.children
    .filter((child) => !matches.value || matches.value.get(child))
    .sort((a, b) => broken.value.get(b)! - broken.value.get(a)! || byId.value.get(b)!.total - byId.value.get(a)!.total);
  return {
    key,
    data: node,
    leaf: children.length === 0,
    children: isOpen(key) ? children.slice(0, MOST).map((child) => branchOf(child, key)) : [],
  };
}
const branches = computed(() => {
  const root = props.nodes[0];
  return root && (!matches.value || matches.value.get(root.id)) ? [branchOf(root.id, '')] : [];
});
const expanded = computed({
  get: () => {
    const keys: Record<string, boolean> = {};
    const walk = (branch: Branch) => {
      if (isOpen(branch.key)) keys[branch.key] = true;
      branch.children.forEach(walk);
    };
    branches.value.forEach(walk);
    return keys;
  },
  set: (keys) => (open.value = new Set(Object.keys(keys).filter((key) => keys[key]))),
});
const selected = ref<Record<string, boolean>>({});
</script>

<template>
  <TreeTable
    v-model:expanded-keys="expanded"
    v-model:selection-keys="selected"
    :value="branches"
    selection-mode="single"
    :meta-key-selection="false"
    scrollable
    scroll-height="flex"
    class="chain"
    :table-props="{ 'aria-label': 'Chain from the shot to files on disk' }"
    @node-select="chosen = ($event as unknown as Branch).data.id"
  >
    <template #empty>Nothing is called “{{ find }}”.</template>
    <Column header="Item" expander class="cut" :pt="{ nodeToggleButton: { 'aria-label': 'Open or close' } }">
      <template #body="{ node }">
        <span class="name" :title="node.data.label"
          >{{ node.data.label
          }}<span v-if="node.data.count > 1" class="dim"> and {{ node.data.count - 1 }} alike</span></span
        >
      </template>
    </Column>
    <Column header="Kind" class="kind">
      <template #body="{ node }"
        ><span class="dim">{{ node.data.kind }}</span></template
      >
    </Column>
    <Column header="State" class="state">
      <template #body="{ node }">
        <span v-if="node.data.state !== 'ok'" class="severity" :class="fileSeverity(node.data.state)">{{
          fileState(node.data.state)
        }}</span>
        <span v-else-if="broken.get(node.data.id)" class="dim">{{ broken.get(node.data.id) }} below</span>
      </template>
    </Column>
    <Column header="Size" class="size num">
      <template #body="{ node }">{{ fileSize(node.data.total) }}</template>
    </Column>
  </TreeTable>
</template>

<style scoped>
.chain {
  min-height: 0;
}
.chain :deep(table) {
  table-layout: fixed;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.chain :deep(.kind) {
  width: 120px;
}
.chain :deep(.state) {
  width: 110px;
}
.chain :deep(.size) {
  width: 96px;
  text-align: right;
}
.severity {
  width: 76px;
}
</style>
