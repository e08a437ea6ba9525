/** Ids of records: the interface knows chance, the core does not. */
export const newId = (): string => crypto.randomUUID();
