/** Of these there is one each. */
const single: Record<string, string> = { navigation: 'menu', routing: 'rules of who gets which', application: 'application' };

/** Whether there is one of the kind in an application, which has no other key. */
export const isSingle = (kind: string): boolean => kind in single;

/** What a document is called among others: layout vessel, menu. */
export const documentName = ({ kind, key }: { kind: string; key: string }): string => single[kind] ?? `${kind.replace('-', ' ')} ${key}`;

/** A document by its kind and key, for lists and sets. */
export const nameOf = ({ kind, key }: { kind: string; key: string }): string => `${kind}/${key}`;
