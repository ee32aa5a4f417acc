import type { ReactNode } from 'react';

/** Something to be told, good or bad. */
export interface Notice {
  text: string;
  bad: boolean;
}

/** What is to be noticed; spoken when it appears, at once where it is urgent: where something is wrong, if nothing else is said. */
export const NoticeBox = ({
  tone,
  urgent = tone === 'bad',
  children,
}: {
  tone?: 'good' | 'bad' | undefined;
  urgent?: boolean;
  children: ReactNode;
}) => (
  <div className="notice" data-tone={tone} role={urgent ? 'alert' : 'status'}>
    {children}
  </div>
);

/** What was just done, or what stands against it. */
export const NoticeLine = ({ notice }: { notice: Notice | undefined }) =>
  notice && <NoticeBox tone={notice.bad ? 'bad' : 'good'}>{notice.text}</NoticeBox>;

/** What stands against something, where something does. */
export const Problem = ({ text }: { text: string | undefined }) => text && <NoticeBox tone="bad">{text}</NoticeBox>;
