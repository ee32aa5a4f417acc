import { createContext } from 'react';
import type { FieldInfo } from '../../api/client.ts';

/** What conditions are about while they are written: the layout and its fields, and the record and role it is looked at with. */
export interface ConditionScope {
  layout: string;
  fields: FieldInfo[];
  roles: { key: string; label: string }[];
  record: { id: number; title: string } | undefined;
  role: string;
  mode: string;
}

export const Scope = createContext<ConditionScope | undefined>(undefined);
