/** How good a figure is: read from the boundary representation, or recognised in a free-form shape within `deviation` mm. */
export type Accuracy = { kind: 'exact' } | { kind: 'recognised'; deviation: number };
