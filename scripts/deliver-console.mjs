// Puts the built console beside the service, so that the service is whole wherever its folder is copied to.
import { cpSync, existsSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const at = (path) => fileURLToPath(new URL(`../${path}`, import.meta.url));
rmSync(at('out/service/wwwroot'), { recursive: true, force: true });
if (!existsSync(at('web/console/dist/index.html'))) throw new Error('web/console/dist/index.html was not built.');
cpSync(at('web/console/dist'), at('out/service/wwwroot'), { recursive: true });
