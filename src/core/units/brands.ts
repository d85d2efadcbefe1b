declare const is: unique symbol;

/** A text of one kind that no other kind's text can stand in for. Minted by parsers only; at run time it is the text. */
export type Branded<Name extends string> = string & { readonly [is]: Name };
