<script setup lang="ts">
/** The chain from the shot to files on disk, branch by branch; a branch with something broken in it says so. */
import { computed, nextTick, ref, watch } from 'vue';
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
function toggle(way: string): void {
  if (!open.value.delete(way)) open.value.add(way);
}

const MOST = 300;
interface Row {
  way: string;
  depth: number;
  node: ChainNode;
}
const rows = computed(() => {
  const out: Row[] = [];
  const walk = (id: string, above: string, depth: number) => {
    if (matches.value && !matches.value.get(id)) return;
    const node = byId.value.get(id)!;
    const way = above ? `${above}\n${id}` : id;
    out.push({ way, depth, node });
    if (!open.value.has(way) && !matches.value) return;
    // What is broken first, then what is heavy.
    const children = [...node.children].sort(
      (a, b) => broken.value.get(b)! - broken.value.get(a)! || byId.value.get(b)!.total - byId.value.get(a)!.total,
    );
    for (const child of children.slice(0, MOST)) walk(child, way, depth + 1);
  };
  if (props.nodes.length) walk(props.nodes[0].id, '', 0);
  return out.slice(0, 5000);
});

const isOpen = (way: string): boolean => open.value.has(way) || matches.value !== null;
/** The row that the keyboard is at. */
const at = ref(0);
function choose(i: number): void {
  at.value = i;
  chosen.value = rows.value[i].node.id;
}
/** As trees are walked: up and down the rows, right into a branch, left out of it (WAI-ARIA Authoring Practices). */
function onKey(event: KeyboardEvent): void {
  const row = rows.value[at.value];
  if (!row) return;
  const depthOf = (i: number) => rows.value[i].depth;
  const steps: Record<string, () => void> = {
    ArrowDown: () => go(at.value + 1),
    ArrowUp: () => go(at.value - 1),
    ArrowRight: () => (isOpen(row.way) || row.node.children.length === 0 ? go(at.value + 1) : toggle(row.way)),
    ArrowLeft: () => {
      if (open.value.has(row.way)) toggle(row.way);
      else {
        let i = at.value;
        while (i > 0 && depthOf(i) >= row.depth) i -= 1;
        go(i);
      }
    },
    Enter: () => choose(at.value),
    ' ': () => choose(at.value),
  };
  if (!Object.hasOwn(steps, event.key)) return;
  event.preventDefault();
  event.stopPropagation();
  steps[event.key]();
}
function go(i: number): void {
  at.value = Math.max(0, Math.min(rows.value.length - 1, i));
  void nextTick(() => document.querySelector<HTMLElement>('.chain [tabindex="0"]')?.focus());
}
</script>

<template>
  <div class="chain" role="tree" aria-label="Chain from the shot to files on disk" @keydown="onKey">
    <div
      v-for="({ way, depth, node }, i) in rows"
      :key="way"
      class="row"
      :class="{ on: node.id === chosen }"
      role="treeitem"
      :tabindex="i === at ? 0 : -1"
      :aria-level="depth + 1"
      :aria-selected="node.id === chosen"
      :aria-expanded="node.children.length ? isOpen(way) : undefined"
      :aria-label="node.label"
      @click="choose(i)"
      @dblclick="toggle(way)"
    >
      <span :style="{ paddingLeft: `${depth * 16}px` }" class="name">
        <span class="fold" aria-hidden="true" @click.stop="toggle(way)">{{
          node.children.length ? (isOpen(way) ? '▾' : '▸') : ''
        }}</span>
        <span class="cut" :title="node.label">
          {{ node.label }}<span v-if="node.count > 1" class="dim"> and {{ node.count - 1 }} alike</span>
        </span>
      </span>
      <span class="dim">{{ node.kind }}</span>
      <span>
        <span v-if="node.state !== 'ok'" class="severity" :class="fileSeverity(node.state)">{{
          fileState(node.state)
        }}</span>
        <span v-else-if="broken.get(node.id)" class="dim">{{ broken.get(node.id) }} below</span>
      </span>
      <span class="right num soft">{{ fileSize(node.total) }}</span>
    </div>
  </div>
</template>

<style scoped>
.chain {
  overflow: auto;
  min-height: 0;
  padding: 6px 0 20px;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 120px 96px 84px;
  gap: 10px;
  align-items: center;
  min-height: 24px;
  padding: 0 16px;
}
.row {
  cursor: default;
}
.row:hover {
  background: var(--panel);
}
.row.on {
  background: var(--up);
}
.name {
  display: flex;
  gap: 4px;
  min-width: 0;
}
.fold {
  width: 16px;
  flex: none;
  color: var(--dim);
  text-align: center;
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.severity {
  width: 76px;
}
.right {
  text-align: right;
}
</style>
