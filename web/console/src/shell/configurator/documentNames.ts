import { say, type TextKey } from './texts.ts';

interface DocumentKey {
  kind: string;
  key: string;
}

/** Of these there is one each. */
const single: Record<string, TextKey> = {
  navigation: 'documentKind.navigation',
  routing: 'documentKind.routing',
  application: 'documentKind.application',
};

const named: Record<string, TextKey> = {
  layout: 'documentKind.layout',
  entity: 'documentKind.entity',
  'choice-list': 'documentKind.choiceList',
  pattern: 'documentKind.pattern',
  template: 'documentKind.template',
};

/** Whether there is one of the kind in an application, which has no other key. */
export const isSingle = (kind: string): boolean => kind in single;

/** What a document is called among others: layout vessel, menu. */
export const documentName = ({ kind, key }: DocumentKey): string =>
  single[kind] ? say(single[kind]) : named[kind] ? say(named[kind], key) : `${kind} ${key}`;

/** A document by its kind and key, for lists and sets. */
export const nameOf = ({ kind, key }: DocumentKey): string => `${kind}/${key}`;
