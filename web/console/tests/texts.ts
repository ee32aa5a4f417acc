import { loadTexts } from '../src/shell/configurator/texts.ts';

// Pages are looked at in English, as people who work in English see them.
await loadTexts('en');
