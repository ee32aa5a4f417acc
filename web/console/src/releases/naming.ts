/** Of these there is one each. */
const single: Record<string, string> = { navigation: 'menu', routing: 'rules of who gets which', application: 'application' };

/** What a document is called among others: layout vessel, menu. */
export const documentName = ({ kind, key }: { kind: string; key: string }): string => single[kind] ?? `${kind.replace('-', ' ')} ${key}`;

/** A document by its kind and key, for lists and sets. */
export const nameOf = ({ kind, key }: { kind: string; key: string }): string => `${kind}/${key}`;
