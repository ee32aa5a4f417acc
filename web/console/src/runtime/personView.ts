import { make } from '#form';
import { answer, api, type Session } from '../api/client.ts';
import { loadTexts, say } from '../shell/configurator/texts.ts';
import './personView.css';

/** Says whose view of the application this is, and leads back to oneself; fetched only where one looks through another's eyes. */
export async function showPersonView({ person, language }: Session): Promise<void> {
  await loadTexts(language);
  const back = () =>
    void answer(api.DELETE('/api/session/view')).then(
      () => window.location.assign('/people'),
      () => window.location.reload(),
    );
  document.querySelector('.viewing')?.remove();
  document.documentElement.dataset['viewed'] = '';
  document.body.prepend(
    make(
      'div',
      { class: 'viewing', role: 'status' },
      make('span', {}, say('viewing.about', person!.name)),
      make('button', { class: 'button', type: 'button', on: { click: back } }, say('viewing.back')),
    ),
  );
}
