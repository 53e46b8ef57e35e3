/** Questions to the worker that has the shot compiled: about the version that is current, with the values that are set. */
import { defineStore } from 'pinia';
import { watch } from 'vue';
import { kindOf, type AnyAsked, type AskAnswer, type Asked, type AskedMaps, type AskedOcclusion, type AskRequest, type Question, type QuestionKind } from '../place/ask-messages.ts'; // prettier-ignore
import { getJson } from '../remote/client.ts';
import { useCurrent } from './current.ts';
import { usePending } from './pending.ts';
import { useShot } from './shot.ts';

export type Answer<Q extends Question> = Q extends { mapsOf: string | null } ? AskedMaps : Q extends { occlusion: true } ? AskedOcclusion : Asked; // prettier-ignore
interface Waiting {
  turn: number;
  resolve(answer: AnyAsked | null): void;
  reject(error: Error): void;
}

export const useAsker = defineStore('asker', () => {
  const shot = useShot();
  const current = useCurrent();
  const pending = usePending();
  let worker: Worker | null = null;
  let sent: number | null = null;
  let turn = 0;
  const waiting = new Map<QuestionKind, Waiting>();

  /** What an answer depends on beside the question; to be watched. */
  const state = () => JSON.stringify([shot.state?.code, shot.state?.head.id, current.sheetName, pending.scene, pending.sheets]); // prettier-ignore

  function begun(): Worker {
    if (worker) return worker;
    worker = new Worker(new URL('../place/ask.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<AskAnswer>) => {
      for (const [kind, one] of waiting)
        if (one.turn === data.turn) {
          waiting.delete(kind);
          if ('problem' in data) one.reject(new Error(data.problem));
          else one.resolve(data.asked);
        }
    };
    worker.onerror = ({ message }) => {
      for (const one of waiting.values()) one.reject(new Error(message || 'The worker stopped.'));
      waiting.clear();
    };
    return worker;
  }

  /** Null once another question of its kind is asked, or the shot is left. */
  async function ask<Q extends Question>(question: Q): Promise<Answer<Q> | null> {
    const mine = ++turn;
    const kind = kindOf(question);
    waiting.get(kind)?.resolve(null);
    return new Promise((resolve, reject) => {
      waiting.set(kind, { turn: mine, resolve: resolve as Waiting['resolve'], reject });
      send(mine, question).catch((error: Error) => waiting.get(kind)?.turn === mine && reject(error));
    });
  }

  async function send(mine: number, question: Question): Promise<void> {
    const { head, document } = shot.state!;
    const manifest = sent === head.id ? null : await getJson<Record<string, string>>(`/versions/${head.id}/manifest`);
    if (waiting.get(kindOf(question))?.turn !== mine) return;
    const sheet = current.sheetName;
    // What is reactive cannot be sent.
    const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
    begun().postMessage({
      turn: mine,
      version: manifest && { document: plain(document), manifest },
      sheet,
      values: plain({ ...pending.scene, ...pending.sheets[sheet] }),
      question: plain(question),
    } satisfies AskRequest);
    sent = head.id;
  }

  watch(
    () => shot.state?.code,
    () => {
      worker?.terminate();
      for (const one of waiting.values()) one.resolve(null);
      waiting.clear();
      [worker, sent] = [null, null];
    },
    { flush: 'sync' },
  );

  return { ask, state };
});
