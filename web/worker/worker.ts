import { precacheAndRoute } from 'workbox-precaching/precacheAndRoute';
import { matchPrecache } from 'workbox-precaching/matchPrecache';
import { cleanupOutdatedCaches } from 'workbox-precaching/cleanupOutdatedCaches';
import { NavigationRoute } from 'workbox-routing/NavigationRoute';
import { registerRoute } from 'workbox-routing/registerRoute';

declare const self: ServiceWorkerGlobalScope;

/** The files of the portal, put here by the build; nothing of any person is among them. */
declare const FILES: { url: string; revision: string | null }[];

precacheAndRoute(FILES, { directoryIndex: '', cleanURLs: false });
cleanupOutdatedCaches();

/** Every view is one page: the newest there is, or the kept one where there is no network. */
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      try {
        return await fetch(request);
      } catch (error) {
        const kept = await matchPrecache('/index.html');
        if (kept === undefined) {
          throw error;
        }
        return kept;
      }
    },
    { denylist: [/^\/(api|oauth2|saml|scim|actuator|\.well-known)\//] },
  ),
);

