/** The application's document as its file has it, as far as it is changed here; the rest is kept as it is. */
export interface ApplicationFile {
  kind: 'application';
  title?: string | Record<string, string>;
  roles?: RoleFile[];
  widths?: { name: string; below?: number }[];
  styles?: StyleFile[] | undefined;
  theme?: ThemeFile | undefined;
}

export interface RoleFile {
  key: string;
  label: string | Record<string, string>;
  /** What it may do. */
  may?: string[];
  /** The entities it may do it with; all of them without any. */
  entities?: string[] | undefined;
}

export interface ThemeFile {
  primary?: string | undefined;
  accent?: string | undefined;
  typeface?: string | undefined;
  ground?: string | undefined;
}

export interface StyleFile {
  key: string;
  label: string | Record<string, string>;
  ink?: string | undefined;
  paper?: string | undefined;
  strong?: boolean | undefined;
}

export const noApplication: ApplicationFile = { kind: 'application' };
