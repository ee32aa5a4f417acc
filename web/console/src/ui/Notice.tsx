/** Something to be told, good or bad. */
export interface Notice {
  text: string;
  bad: boolean;
}

/** What was just done, or what stands against it; spoken when it appears. */
export const NoticeLine = ({ notice }: { notice: Notice | undefined }) =>
  notice && (
    <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role={notice.bad ? 'alert' : 'status'}>
      {notice.text}
    </p>
  );
