import { make } from '#form';
import { answer, api, type TableOutcome } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { navigate, onPlace } from '../../shell/location.ts';
import { archiveEntity } from './ArchiveEntity.tsx';
import './madeBar.css';

/** Says over the page what a table has become, and takes all of it back in one act; it goes when one goes on. */
export function showMade(plural: string, { entity, records }: TableOutcome): void {
  const said = make('span', {}, say('data.undoTable', plural, Number(records)));
  const button = (label: string, click: () => void) => make('button', { class: 'button', type: 'button', on: { click } }, label);
  const close = () => bar.remove();
  const undo = async () => {
    try {
      const documents = await archiveEntity(entity);
      await answer(api.POST('/api/releases', { body: { documents, note: say('entityArchive.title', plural) } }));
      navigate('data');
      bar.replaceChildren(make('span', {}, say('data.undone', plural)), button(say('common.close'), close));
      document.body.append(bar);
    } catch (error) {
      said.textContent = (error as Error).message;
    }
  };
  const bar = make(
    'div',
    { class: 'made-bar', role: 'status' },
    said,
    button(say('data.undoAll'), () => void undo()),
    button(say('common.close'), close),
  );
  document.querySelector('.made-bar')?.remove();
  document.body.append(bar);
  const stop = onPlace(() => {
    close();
    stop();
  });
}
