import './api/early.ts';
import '@fontsource-variable/source-sans-3/wght.css';
import '#form/tokens.css';
import '#form/form.css';
import './console.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './shell/App.tsx';

createRoot(document.getElementById('root')!).render(<StrictMode><App /></StrictMode>);
