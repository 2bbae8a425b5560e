/** Names that a reader makes up where the file gives none. */
export const MADE_UP_NAME = /^(=>\[|SOLID$|COMPOUND$|SHELL$|Open CASCADE STEP)/;
