/** Bodies of requests that change something, as schemas the server checks them with. */
import { Type, type Static } from '@sinclair/typebox';
import { CODE_PATTERN, Id } from '../document/schema/common.ts';
import { RegionSchema } from './finding.ts';

const closed = { additionalProperties: false } as const;
/** Number of a row, as the database counts: 32 bits. */
const RowId = Type.Integer({ minimum: 1, maximum: 2 ** 31 - 1 });
const SheetName = Type.Union([Type.Literal('preview'), Type.Literal('final')]);

/**
 * Values by the pointer of a control: inside a sheet (`{ "/limits/transmission": 20 }`) or in the document
 * (`{ "/lights/sun/angle": 0.53 }`), see `document/pointers.ts`. The changed document is checked as a whole.
 */
const ControlValues = Type.Record(Type.String({ pattern: '^(/[A-Za-z0-9_.-]+){1,5}$' }), Type.Unknown(), {
  ...closed,
  minProperties: 1,
  maxProperties: 5000,
});
/** Items of a document, by their pointers. */
const Items = Type.Array(Type.String({ pattern: '^/[a-z]+/[A-Za-z0-9_.-]+$' }), { minItems: 1, maxItems: 5000 });

export const ArchiveRequest = Type.Object({ archived: Type.Boolean() }, closed);

/** @see server/http/sign-in.ts */
export const SignInRequest = Type.Object({ token: Type.String({ minLength: 1, maxLength: 500 }) }, closed);

export const RenderRequest = Type.Object({ sheet: SheetName, region: Type.Union([RegionSchema, Type.Null()]) }, closed);
export type RenderRequest = Static<typeof RenderRequest>;

/** Frames of the shot, each once, rendered by a sheet. */
export const FramesRequest = Type.Object(
  {
    sheet: SheetName,
    frames: Type.Array(Type.Integer({ minimum: -1e6, maximum: 1e7 }), { minItems: 1, maxItems: 500, uniqueItems: true }),
  },
  closed,
); // prettier-ignore
export type FramesRequest = Static<typeof FramesRequest>;

/** What an image that is brought into a shot is for. */
export const IMAGE_USES = ['environment', 'map', 'texture'] as const;
export type ImageUse = (typeof IMAGE_USES)[number];

/** What became of it: the item to look at, and how it is read. */
export interface AddedImage {
  item: string;
  colourSpace: 'srgb' | 'linear';
  why: string;
}

/** Makes a version the newest again. `base` is the version the page showed. */
export const ReturnRequest = Type.Object({ base: RowId, version: RowId }, closed);
export type ReturnRequest = Static<typeof ReturnRequest>;

/** What a version, or a shot, is called. */
export const NameRequest = Type.Object({ name: Type.String({ maxLength: 200 }) }, closed);

/** A shot made from the newest version of another. */
export const CopyRequest = Type.Object(
  {
    code: Type.String({ pattern: CODE_PATTERN, minLength: 1, maxLength: 40 }),
    name: Type.String({ maxLength: 200 }),
  },
  closed,
);
export type CopyRequest = Static<typeof CopyRequest>;

/** Codes of the shots that a trial of two renders becomes: without its objects, and with these alone. */
export const ApartRequest = Type.Object(
  { rest: CopyRequest.properties.code, alone: CopyRequest.properties.code },
  closed,
);
export type ApartRequest = Static<typeof ApartRequest>;

export const ContinueRequest = Type.Object(
  { samples: Type.Integer({ minimum: 4, maximum: 65536, multipleOf: 4 }) },
  closed,
);
export type ContinueRequest = Static<typeof ContinueRequest>;

/**
 * Sets controls, those of a sheet in one or both, adds items where a pointer names one that is not there, and takes items out: a
 * new version. `base` is the version the page showed.
 */
export const DialRequest = Type.Object(
  {
    base: RowId,
    sheets: Type.Array(SheetName, { minItems: 1, maxItems: 2, uniqueItems: true }),
    values: Type.Record(Type.String({ pattern: '^(/[A-Za-z0-9_.-]+){1,5}$' }), Type.Unknown(), { ...closed, maxProperties: 5000 }),
    remove: Type.Optional(Items),
  },
  closed,
); // prettier-ignore
export type DialRequest = Static<typeof DialRequest>;

/** Tries a remedy of a finding, or values of one's own (`finding` null). */
export const TrialRequest = Type.Object(
  {
    finding: Type.Union([RowId, Type.Null()]),
    remedy: Type.Union([Type.String({ maxLength: 100 }), Type.Null()]),
    /** Null takes the finding's own region. */
    region: Type.Union([RegionSchema, Type.Null()]),
    sheet: SheetName,
    values: Type.Union([ControlValues, Type.Null()]),
    /** Ids of objects that get values of one's own alone: they are rendered by themselves and put together with the rest. */
    objects: Type.Optional(Type.Array(Id, { minItems: 1, maxItems: 5000, uniqueItems: true })),
    /** Of the items that a remedy does the same thing to, those it is tried for, by their pointers; all where it is left out. */
    only: Type.Optional(Items),
    /** What it is called, where the values do not say it best. */
    title: Type.Optional(Type.String({ minLength: 1, maxLength: 200 })),
  },
  closed,
);
export type TrialRequest = Static<typeof TrialRequest>;

/** Tries several values of one thing on one region, which share the render without any of them. */
export const SweepRequest = Type.Object(
  {
    title: Type.String({ minLength: 1, maxLength: 200 }),
    /** The control that all of them set, where it is one. */
    pointer: Type.Union([Type.String({ maxLength: 300 }), Type.Null()]),
    sheet: SheetName,
    /** Null: the whole frame. */
    region: Type.Union([RegionSchema, Type.Null()]),
    steps: Type.Array(
      Type.Object({ label: Type.String({ minLength: 1, maxLength: 120 }), values: ControlValues }, closed),
      { minItems: 2, maxItems: 9 },
    ),
  },
  closed,
);
export type SweepRequest = Static<typeof SweepRequest>;

/** Measures what a frame takes, by a sheet of some versions. */
export const FrameTimesRequest = Type.Object(
  { sheet: SheetName, versions: Type.Array(RowId, { minItems: 1, maxItems: 10 }) },
  closed,
);
export type FrameTimesRequest = Static<typeof FrameTimesRequest>;

/** The farm that a shot is for; see `Farm`. */
export const FarmRequest = Type.Object(
  {
    frames: Type.Integer({ minimum: 1, maximum: 1e6 }),
    machines: Type.Integer({ minimum: 1, maximum: 1e5 }),
    threads: Type.Integer({ minimum: 1, maximum: 1024 }),
    speed: Type.Number({ minimum: 0.01, maximum: 100 }),
    price: Type.Union([Type.Null(), Type.Number({ minimum: 0, maximum: 1e6 })]),
  },
  closed,
);
export type FarmRequest = Static<typeof FarmRequest>;
/** Until somebody says otherwise. */
export const DEFAULT_FARM: FarmRequest = { frames: 100, machines: 10, threads: 16, speed: 1, price: null };

export const KeepRequest = Type.Object(
  {
    /** Carry the change to the other sheet as well. */
    both: Type.Boolean(),
  },
  closed,
);
export type KeepRequest = Static<typeof KeepRequest>;

export const AsideRequest = Type.Object({ reason: Type.String({ minLength: 1, maxLength: 500 }) }, closed);
export type AsideRequest = Static<typeof AsideRequest>;

/** Moves the head along the versions. `base` is the head the page showed. */
export const StepRequest = Type.Object({ base: RowId }, closed);
export type StepRequest = Static<typeof StepRequest>;

/** Carries out the repair that a check, or a limit of the target (`target:floors`), offers; null: all of the checks that are offered, as one version. */
export const RepairRequest = Type.Object(
  { base: RowId, check: Type.Union([Type.String({ pattern: '^(target:)?[a-z-]{1,60}$' }), Type.Null()]) },
  closed,
);
export type RepairRequest = Static<typeof RepairRequest>;

/** Decides about a kind of message in a shot's logs; null takes a decision back. */
export const LogDecisionRequest = Type.Object(
  {
    key: Type.String({ minLength: 1, maxLength: 8000 }),
    harmless: Type.Union([Type.Boolean(), Type.Null()]),
    why: Type.String({ maxLength: 500 }),
  },
  closed,
);
export type LogDecisionRequest = Static<typeof LogDecisionRequest>;

const ProfileName = Type.Union([Type.String({ minLength: 1, maxLength: 200 }), Type.Null()]);

/** What a shot goes by; null: nothing in particular. */
export const ProfileChoice = Type.Object({ show: ProfileName, target: ProfileName }, closed);
export type ProfileChoice = Static<typeof ProfileChoice>;

/** A profile as its JSON text. */
export const ProfileRequest = Type.Object({ text: Type.String({ minLength: 1, maxLength: 900_000 }) }, closed);
export type ProfileRequest = Static<typeof ProfileRequest>;

/** Reads a log again by a format; null: by the one its lines tell. */
export const LogFormatRequest = Type.Object({ format: ProfileName }, closed);
export type LogFormatRequest = Static<typeof LogFormatRequest>;

const Words = (most: number) => Type.String({ maxLength: most });
const Role = Type.Union(
  (['beauty', 'light', 'light group', 'data', 'matte', 'noise', 'other'] as const).map((role) => Type.Literal(role)),
);

/** What a person says of a set of pictures; see `SetReading`. */
export const ReadingRequest = Type.Object(
  {
    roles: Type.Record(Words(300), Role, { ...closed, maxProperties: 5000 }),
    space: Type.Union([
      Type.Null(),
      ...(['rec709', 'p3', 'rec2020', 'acescg', 'aces'] as const).map((id) => Type.Literal(id)),
    ]),
    bakedExposure: Type.Number({ minimum: -30, maximum: 30 }),
    samples: Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 1e7 })]),
  },
  closed,
);
export type ReadingRequest = Static<typeof ReadingRequest>;

export const BalanceRequest = Type.Record(
  Words(300),
  Type.Object({ stops: Type.Number({ minimum: -20, maximum: 20 }), isMuted: Type.Boolean() }, closed),
  { ...closed, maxProperties: 200 },
);
export type BalanceRequest = Static<typeof BalanceRequest>;

/** A view by the query of its address. */
export const LookRequest = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 120 }),
    note: Words(4000),
    query: Type.Record(Type.String({ pattern: '^[a-z]{1,20}$' }), Words(2000), { ...closed, maxProperties: 40 }),
    pins: Type.Array(Type.Object({ x: Type.Number(), y: Type.Number(), text: Words(200) }, closed), { maxItems: 50 }),
  },
  closed,
);
export type LookRequest = Static<typeof LookRequest>;
