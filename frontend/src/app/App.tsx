import {
  MutationCache,
  notifyManager,
  QueryCache,
  QueryClient,
  QueryClientProvider,
} from "@tanstack/react-query";
import { ConfigProvider } from "antd";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { isRefusal, Problem } from "../api/client";
import { SitesView } from "../views/sites/SitesView";
import { later } from "./later";
import { ModeContext, useMode } from "./mode";
import { Shell } from "./Shell";
import { themeFor } from "./theme";

const OPENING = "Opening the view";
const ErrorPage = later(async () => (await import("./ErrorPage")).ErrorPage);
const SIGN_IN = "/sign-in";

/** Once more for what did not answer, not for what was refused. */
const mayComeYet = (failures: number, error: Error) => failures < 1 && !isRefusal(error);

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
void import("./arrivals").then(({ arrange }) => arrange(notifyManager, queries));
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? "";

const router = createBrowserRouter([
  {
    path: SIGN_IN,
    Component: later(async () => (await import("../views/people/SignIn")).SignIn, OPENING),
  },
  {
    element: <Shell />,
    errorElement: <ErrorPage />,
    children: [
      { path: "/", element: <SitesView /> },
      {
        path: "/several",
        Component: later(async () => (await import("../views/several/SeveralView")).SeveralView, OPENING),
      },
      {
        path: "/account",
        Component: later(async () => (await import("../views/people/AccountView")).AccountView, OPENING),
      },
      {
        path: "/visitor",
        Component: later(async () => (await import("../views/visitor/VisitorView")).VisitorView, OPENING),
      },
      {
        path: "/sites/:siteId",
        Component: later(async () => (await import("./SiteFrame")).SiteFrame, OPENING),
        errorElement: <ErrorPage />,
        children: [
          { index: true, element: <Navigate to="bench" replace /> },
          {
            path: "artwork",
            Component: later(async () => (await import("../views/artwork/ArtworkView")).ArtworkView, OPENING),
          },
          {
            path: "artwork/letters",
            Component: later(
              async () => (await import("../views/artwork/drawing/LettersView")).LettersView,
              OPENING,
            ),
          },
          {
            path: "artwork/symbol",
            Component: later(
              async () => (await import("../views/artwork/drawing/SymbolView")).SymbolView,
              OPENING,
            ),
          },
          {
            path: "bench/:draftId?",
            Component: later(async () => (await import("../views/bench/BenchView")).BenchView, OPENING),
          },
          {
            path: "set",
            Component: later(async () => (await import("../views/set/SetView")).SetView, OPENING),
          },
          {
            path: "install",
            Component: later(async () => (await import("../views/install/InstallView")).InstallView, OPENING),
          },
          {
            path: "live-check",
            Component: later(
              async () => (await import("../views/livecheck/LiveCheckView")).LiveCheckView,
              OPENING,
            ),
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
