/** Something a person asked for that cannot be: its message is one sentence for them. */
export class BadUse extends Error {}
