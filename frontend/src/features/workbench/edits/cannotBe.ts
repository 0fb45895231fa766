/** Why something cannot be done, and what to do instead. */
export class CannotBe extends Error {}
