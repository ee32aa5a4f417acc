import type { FormHost, FormStore, RecordName, ResolvedForm } from '#form';
import type { CommentInfo, EntitySummary, RecordInfo, Session } from '../api/client.ts';
import type { Island } from '../shell/island.ts';

export interface SignInProps {
  session: Session;
  onSignedIn: (session: Session) => void;
}

export interface HomeProps {
  entities: EntitySummary[];
  mentions: CommentInfo[];
}

export interface ListProps {
  entity: EntitySummary;
}

export interface PrintProps {
  entity: string;
  id: number;
}

export interface RecordCommentsProps {
  entity: string;
  record: RecordInfo;
  form: ResolvedForm;
  /** What was said was looked at, and with it every mention of whoever looks. */
  onLooked: () => void;
}

export interface ConflictProps {
  store: FormStore;
  /** The record as it was when one began to type. */
  before: RecordInfo;
  /** The record as somebody else saved it. */
  theirs: RecordInfo;
  /** The fields in which their value is to stand. */
  onDone: (theirs: string[]) => void;
  onCancel: () => void;
}

export interface SideSheetProps {
  entity: string;
  /** The record looked at; without one a new one is made with the short form. */
  id: number | undefined;
  host: FormHost;
  onClose: (made?: RecordName) => void;
}

/** What stands around a record and is fetched when it is opened. */
export interface RecordParts {
  comments: (props: RecordCommentsProps) => Island<RecordCommentsProps>;
  conflict: (props: ConflictProps) => Island<ConflictProps>;
  sideSheet: (props: SideSheetProps) => Island<SideSheetProps>;
}

/** The pages of the business application that are drawn by components: the running part asks for them and does not know what draws them. */
export interface Parts extends RecordParts {
  signIn: (props: SignInProps) => Island<SignInProps>;
  home: (props: HomeProps, waiting: string) => Island<HomeProps>;
  list: (props: ListProps, waiting: string) => Island<ListProps>;
  print: (props: PrintProps) => Island<PrintProps>;
}
