import './api/early.ts';
import '@fontsource-variable/source-sans-3/wght.css';
import '#form/tokens.css';
import '#form/form.css';
import './console.css';
import { App } from './shell/App.ts';

new App(document.getElementById('root')!);
