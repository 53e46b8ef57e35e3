/** Figures as predictions state them and trials measure them. What each is, its unit and its words: `core/figures/`. */
import { Type, type Static } from '@sinclair/typebox';

const closed = { additionalProperties: false } as const;
const amount = Type.Union([Type.Number(), Type.Null()]);

/** One figure of the state before a change and of the one after it, in the figure's unit. */
export const FigureValueSchema = Type.Object(
  {
    /** Of the registry. */
    id: Type.String(),
    /** Null: it could not be told, and `why` says why; or there is nothing of the kind. */
    before: amount,
    after: amount,
    /** The object or the pass that it is told of, where it is not the beauty of all. */
    of: Type.Optional(Type.String()),
    /** The same change over the whole frame, where the region's is another: a ratio or a difference, as the figure's change is told. */
    frame: Type.Optional(Type.Number()),
    why: Type.Optional(Type.String()),
  },
  closed,
);
export type FigureValue = Static<typeof FigureValueSchema>;

/** What a change does, predicted or measured: each figure at most once, in the registry's order. */
export const EffectSchema = Type.Object({ figures: Type.Array(FigureValueSchema) }, closed);
export type Effect = Static<typeof EffectSchema>;
