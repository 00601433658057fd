import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { ConfigProvider } from "antd";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { Problem } from "../api/client";
import { SitesView } from "../views/sites/SitesView";
import { ErrorPage } from "./ErrorPage";
import { ModeContext, useMode } from "./mode";
import { Shell } from "./Shell";
import { themeFor } from "./theme";

const SIGN_IN = "/sign-in";

/** Once more for what did not answer, not for what was refused. */
const mayComeYet = (failures: number, error: Error) =>
  failures < 1 && !(error instanceof Problem && error.code === "sign-in-needed");

/** Whoever is not signed in, or no longer, signs in and comes back to where they were. */
const onError = (error: Error) => {
  const { pathname, search } = router.state.location;
  if (error instanceof Problem && error.code === "sign-in-needed" && pathname !== SIGN_IN)
    void router.navigate(SIGN_IN, { replace: true, state: { to: pathname + search } });
};
/** Bexi runs on this machine or near it: it is there without the network that browsers watch for. */
const IN_REACH = { networkMode: "always" } as const;
const queries = new QueryClient({
  queryCache: new QueryCache({ onError }),
  mutationCache: new MutationCache({ onError }),
  defaultOptions: {
    queries: { retry: mayComeYet, ...IN_REACH },
    mutations: IN_REACH,
  },
});
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? "";

const router = createBrowserRouter([
  {
    path: SIGN_IN,
    lazy: async () => ({ Component: (await import("../views/people/SignIn")).SignIn }),
  },
  {
    element: <Shell />,
    errorElement: <ErrorPage />,
    children: [
      { path: "/", element: <SitesView /> },
      {
        path: "/several",
        lazy: async () => ({ Component: (await import("../views/several/SeveralView")).SeveralView }),
      },
      {
        path: "/account",
        lazy: async () => ({ Component: (await import("../views/people/AccountView")).AccountView }),
      },
      {
        path: "/visitor",
        lazy: async () => ({ Component: (await import("../views/visitor/VisitorView")).VisitorView }),
      },
      {
        path: "/sites/:siteId",
        lazy: async () => ({ Component: (await import("./SiteFrame")).SiteFrame }),
        errorElement: <ErrorPage />,
        children: [
          { index: true, element: <Navigate to="bench" replace /> },
          {
            path: "artwork",
            lazy: async () => ({ Component: (await import("../views/artwork/ArtworkView")).ArtworkView }),
          },
          {
            path: "artwork/letters",
            lazy: async () => ({
              Component: (await import("../views/artwork/drawing/LettersView")).LettersView,
            }),
          },
          {
            path: "artwork/symbol",
            lazy: async () => ({
              Component: (await import("../views/artwork/drawing/SymbolView")).SymbolView,
            }),
          },
          {
            path: "bench/:draftId?",
            lazy: async () => ({ Component: (await import("../views/bench/BenchView")).BenchView }),
          },
          {
            path: "set",
            lazy: async () => ({ Component: (await import("../views/set/SetView")).SetView }),
          },
          {
            path: "install",
            lazy: async () => ({ Component: (await import("../views/install/InstallView")).InstallView }),
          },
          {
            path: "live-check",
            lazy: async () => ({
              Component: (await import("../views/livecheck/LiveCheckView")).LiveCheckView,
            }),
          },
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
      <QueryClientProvider client={queries}>
        <ModeContext value={{ mode, toggleMode }}>
          <RouterProvider router={router} />
        </ModeContext>
      </QueryClientProvider>
    </ConfigProvider>
  );
}
