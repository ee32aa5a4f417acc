let application = '';

/** Names the window after the application, until something in it is in view. */
export function nameApplication(title: string): void {
  application = title;
  nameWindow();
}

/** Names the window after what is in view, so that tabs and the history can be told apart; after the application where nothing is. */
export function nameWindow(view?: string): void {
  document.title = view && view !== application ? `${view} · ${application}` : application;
}
