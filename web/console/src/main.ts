import './api/early.ts';
import '@fontsource-variable/source-sans-3/wght.css';
import '#form/tokens.css';
import '#form/form.css';
import './console.css';
import { features, parts } from './features/index.ts';
import { App } from './runtime/App.ts';

new App(document.getElementById('root')!, features, parts);
