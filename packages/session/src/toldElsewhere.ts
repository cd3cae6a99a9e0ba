/** Why an act came to nothing is told, and settled, in a place of its own: who asked for it says nothing of it. */
export class ToldElsewhere extends Error {}
