import '@fontsource-variable/source-sans-3';
import '@fontsource/ibm-plex-mono/400.css';
import '@fontsource/ibm-plex-mono/500.css';
import './theme/theme.css';
import './theme/components.css';
import { ConfigProvider } from 'antd';
import { ChevronDown } from 'lucide-react';
import { StrictMode, useEffect, useSyncExternalStore, type ReactElement } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider, createBrowserRouter } from 'react-router';
import { installInspection } from './inspect/inspection';
import { later } from './controls/later';
import { routes } from './pages/routes';
import { foldWhereNarrow } from './store/narrow-window';
import { takeUpLeftPage } from './store/page-place';
import { useAccess } from './api/access-store';
import { usePreferences } from './store/preferences-store';
import { componentTheme } from './theme/themes';

const SignInPage = later(async () => (await import('./pages/sign-in-page')).SignInPage);
takeUpLeftPage();
foldWhereNarrow();
const router = createBrowserRouter(routes);

void useAccess.getState().load();
useAccess.subscribe(({ session }, before) => {
  const name = session?.person?.name;
  if (session !== before.session && name) usePreferences.getState().set({ person: name });
});
// what was asked for before it was known who asks is asked for again
useAccess.subscribe(({ isNeeded }, before) => {
  if (before.isNeeded && !isNeeded) void router.revalidate();
});

const stillness = matchMedia('(prefers-reduced-motion: reduce)');
function watchMotion(onChange: () => void): () => void {
  stillness.addEventListener('change', onChange);
  return () => stillness.removeEventListener('change', onChange);
}

function GullPane(): ReactElement {
  const theme = usePreferences((preferences) => preferences.theme);
  const prefersStill = useSyncExternalStore(watchMotion, () => stillness.matches);
  const isSignInNeeded = useAccess((access) => access.isNeeded);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  return (
    <ConfigProvider
      theme={componentTheme(theme, prefersStill)}
      select={{ suffixIcon: <ChevronDown size={14} aria-hidden /> }}
    >
      {isSignInNeeded ? <SignInPage /> : <RouterProvider router={router} />}
    </ConfigProvider>
  );
}

installInspection();
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <GullPane />
  </StrictMode>,
);
