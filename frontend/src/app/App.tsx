import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { App as AntApp, ConfigProvider } from "antd";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { ArtworkView } from "../views/artwork/ArtworkView";
import { LettersView } from "../views/artwork/drawing/LettersView";
import { SymbolView } from "../views/artwork/drawing/SymbolView";
import { BenchView } from "../views/bench/BenchView";
import { InstallView } from "../views/install/InstallView";
import { LiveCheckView } from "../views/livecheck/LiveCheckView";
import { SetView } from "../views/set/SetView";
import { SitesView } from "../views/sites/SitesView";
import { VisitorView } from "../views/visitor/VisitorView";
import { ErrorPage } from "./ErrorPage";
import { ModeContext, useMode } from "./mode";
import { Shell } from "./Shell";
import { SiteFrame } from "./SiteFrame";
import { themeFor } from "./theme";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? "";

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <ErrorPage />,
    children: [
      { path: "/", element: <SitesView /> },
      { path: "/visitor", element: <VisitorView /> },
      {
        path: "/sites/:siteId",
        element: <SiteFrame />,
        errorElement: <ErrorPage />,
        children: [
          { index: true, element: <Navigate to="bench" replace /> },
          { path: "artwork", element: <ArtworkView /> },
          { path: "artwork/letters", element: <LettersView /> },
          { path: "artwork/symbol", element: <SymbolView /> },
          { path: "bench/:draftId?", element: <BenchView /> },
          { path: "set", element: <SetView /> },
          { path: "install", element: <InstallView /> },
          { path: "live-check", element: <LiveCheckView /> },
        ],
      },
      { path: "*", element: <ErrorPage /> },
    ],
  },
]);

export function App() {
  const [mode, toggleMode] = useMode();
  return (
    <ConfigProvider theme={themeFor(mode)} csp={{ nonce }} button={{ autoInsertSpace: false }}>
      <AntApp>
        <QueryClientProvider client={queries}>
          <ModeContext value={{ mode, toggleMode }}>
            <RouterProvider router={router} />
          </ModeContext>
        </QueryClientProvider>
      </AntApp>
    </ConfigProvider>
  );
}
