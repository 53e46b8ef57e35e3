<script setup lang="ts">
/** The documents that ship with Dusting: guides through the demo shots, the glossary, what each part does. */
import Skeleton from 'primevue/skeleton';
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import PageMenu from '../components/PageMenu.vue';
import { usePageTitle } from '../work-done.ts';

const props = defineProps<{ name: string | string[] }>();
const router = useRouter();
const TEXTS = import.meta.glob<string>('../../docs/**/*.md', { query: '?raw', import: 'default' });
const PICTURES = import.meta.glob<string>('../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
});

const CHAPTERS = [
  {
    title: 'Walk-throughs',
    pages: [
      { name: 'guide/first-steps', title: 'First steps: HA-010' },
      { name: 'guide/noise', title: 'Noise' },
      { name: 'guide/night-lantern', title: 'Night lantern: fireflies' },
      { name: 'guide/hive-yard', title: 'Hive yard: turning and adding' },
      { name: 'guide/label-case', title: 'Label case: glass and occlusion' },
      { name: 'guide/dawn-set', title: 'Dawn set: preflight' },
    ],
  },
  {
    title: 'Reference',
    pages: [
      { name: 'glossary', title: 'Words' },
      { name: 'diagnoses', title: 'Findings, causes, remedies' },
      { name: 'pictures', title: 'Look: pictures and passes' },
      { name: 'intake', title: 'Intake: preflight, logs, files, targets' },
      { name: 'shot-document', title: 'The shot document' },
    ],
  },
];
const page = computed(() => (Array.isArray(props.name) ? props.name.join('/') : props.name));
const title = computed(() => CHAPTERS.flatMap(({ pages }) => pages).find(({ name }) => name === page.value)?.title ?? 'Help'); // prettier-ignore
usePageTitle(computed(() => `${title.value} · Dusting`));

/** Null while it is read. */
const html = ref<string | null>(null);
const isMissing = ref(false);
const slug = (text: string) => text.toLowerCase().replace(/[^\w]+/g, '-').replace(/^-|-$/g, ''); // prettier-ignore

/** Where a link of a document leads here: another document, or a picture. */
function addressOf(href: string): string {
  if (/^[a-z]+:|^#|^\//.test(href)) return href;
  const [path, anchor] = href.split('#');
  const full = new URL(path, `http://docs/${page.value}`).pathname.slice(1);
  return `/help/${full.replace(/\.md$/, '')}${anchor ? `#${anchor}` : ''}`;
}

watch(
  page,
  async (name) => {
    html.value = null;
    const read = TEXTS[`../../docs/${name}.md`];
    isMissing.value = !read;
    if (!read) return;
    const [{ default: MarkdownIt }, text] = await Promise.all([import('markdown-it'), read()]);
    const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false });
    markdown.renderer.rules.heading_open = (tokens, i) => `<${tokens[i].tag} id="${slug(tokens[i + 1].content)}">`;
    markdown.renderer.rules.image = (tokens, i) => {
      const file = String(tokens[i].attrGet('src')).split('/').at(-1);
      const url = PICTURES[`../../docs/screenshots/${file}`] ?? '';
      return `<img src="${url}" alt="${markdown.utils.escapeHtml(tokens[i].content)}" loading="lazy">`;
    };
    const plain = markdown.renderer.rules.link_open ?? ((tokens, i, options, _env, self) => self.renderToken(tokens, i, options)); // prettier-ignore
    markdown.renderer.rules.link_open = (tokens, i, options, env, self) => {
      tokens[i].attrSet('href', addressOf(String(tokens[i].attrGet('href'))));
      return plain(tokens, i, options, env, self);
    };
    if (page.value !== name) return;
    html.value = markdown.render(text);
    await nextTick();
    document.getElementById(window.location.hash.slice(1))?.scrollIntoView();
  },
  { immediate: true },
);

/** Links between documents stay in the page. */
function follow(event: MouseEvent): void {
  const href = (event.target as HTMLElement).closest('a')?.getAttribute('href');
  if (!href?.startsWith('/help/') || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  void router.push(href);
}
</script>

<template>
  <div class="help">
    <header>
      <RouterLink to="/" class="back">Shots</RouterLink>
      <h1>Help</h1>
      <span class="gap"></span>
      <PageMenu :has-keys="false" />
    </header>
    <nav aria-label="Documents">
      <section v-for="chapter in CHAPTERS" :key="chapter.title">
        <h2>{{ chapter.title }}</h2>
        <RouterLink
          v-for="one in chapter.pages"
          :key="one.name"
          :to="`/help/${one.name}`"
          :class="{ on: one.name === page }"
          :aria-current="one.name === page ? 'page' : undefined"
          >{{ one.title }}</RouterLink
        >
      </section>
    </nav>
    <main id="main" tabindex="-1">
      <p v-if="isMissing" role="alert">There is no document called “{{ page }}”.</p>
      <Skeleton v-else-if="html === null" height="420px" aria-label="Opening the document" />
      <!-- Our own documents, rendered with raw HTML switched off. -->
      <!-- eslint-disable-next-line vue/no-v-html -->
      <article v-else @click="follow" v-html="html"></article>
    </main>
  </div>
</template>

<style scoped>
.help {
  height: 100%;
  display: grid;
  grid-template: 44px minmax(0, 1fr) / 230px minmax(0, 1fr);
}
header {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 14px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
}
.back {
  color: var(--dim);
  text-decoration: none;
}
nav {
  background: var(--panel);
  border-right: 1px solid var(--line);
  padding: 12px 0;
  overflow: auto;
}
nav h2 {
  color: var(--dim);
  font-weight: 400;
  padding: 8px 14px 4px;
}
nav a {
  display: block;
  padding: 4px 14px;
  text-decoration: none;
  color: var(--soft);
}
nav a.on {
  color: var(--text);
  background: var(--up);
  box-shadow: inset 2px 0 var(--act);
}
main {
  overflow: auto;
  padding: 22px 34px 60px;
}
article {
  max-width: 860px;
  line-height: 1.55;
}
article :deep(:is(h1, h2, h3)) {
  margin: 1.4em 0 0.4em;
}
article :deep(h1) {
  font-size: 1.5rem;
  margin-top: 0;
}
article :deep(h2) {
  font-size: 1.2rem;
}
article :deep(:is(p, ul, ol, table, pre)) {
  margin: 0.6em 0;
}
article :deep(:is(ul, ol)) {
  padding-left: 1.4em;
  list-style: revert;
}
article :deep(img) {
  max-width: 100%;
  border: 1px solid var(--line);
}
article :deep(code) {
  font-family: ui-monospace, monospace;
  background: var(--panel);
  padding: 0 3px;
}
article :deep(pre) {
  background: var(--panel);
  padding: 10px 12px;
  overflow: auto;
}
article :deep(table) {
  border-collapse: collapse;
}
article :deep(:is(th, td)) {
  border-bottom: 1px solid var(--line);
  padding: 4px 10px 4px 0;
  text-align: left;
  vertical-align: top;
}
</style>
