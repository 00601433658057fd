import { App as AntApp } from "antd";
import type { ReactNode } from "react";
import { createPortal } from "react-dom";
import { NavLink, Outlet, useLocation, useNavigate, useOutletContext, useParams } from "react-router";

import { Problem, type Site } from "../api/client";
import { useSite as useOneSite } from "../api/sites";
import { BuildButton } from "./BuildButton";
import { ErrorPage } from "./ErrorPage";
import { LoadingView } from "./Loading";
import { ProblemNotice } from "./ProblemNotice";
import { SitePicker } from "./SitePicker";
import styles from "./siteFrame.module.css";
import { VIEWS } from "./views";

export const useSite = () => useOutletContext<Site>();

/** The five views of one site, with its navigation in the bar. */
export function SiteFrame() {
  const siteId = Number(useParams().siteId);
  const { pathname } = useLocation();
  const asked = useOneSite(siteId, siteId > 0);
  if (!(siteId > 0)) return <ErrorPage />;
  if (asked.isPending) return <LoadingView what="Opening the site" />;
  if (!asked.data) {
    if (asked.error instanceof Problem && asked.error.code === "not-found") return <ErrorPage />;
    return <ProblemNotice problem={asked.error} retry={() => void asked.refetch()} />;
  }
  const site = asked.data;
  return (
    <>
      <title>{[viewOf(pathname), site.name, "Bexi"].filter(Boolean).join(" · ")}</title>
      <InBar>
        <SiteSwitch site={site} />
        <nav className={styles.views} aria-label={`Views of ${site.name}`}>
          {VIEWS.map(([path, label]) => (
            <NavLink key={path} to={`/sites/${site.id}/${path}`}>
              {label}
            </NavLink>
          ))}
        </nav>
        <AntApp component={false}>
          <BuildButton site={site} />
        </AntApp>
      </InBar>
      <AntApp component={false}>
        <Outlet context={site} key={site.id} />
      </AntApp>
    </>
  );
}

const viewOf = (pathname: string) => VIEWS.find(([path]) => pathname.split("/")[3] === path)?.[1];

function InBar({ children }: { children: ReactNode }) {
  const slot = useOutletContext<HTMLElement | null>();
  return slot && createPortal(children, slot);
}

function SiteSwitch({ site }: { site: Site }) {
  const navigate = useNavigate();
  return (
    <SitePicker
      className={styles.switch ?? ""}
      label="Site"
      chosen={site}
      choose={({ id }) => void navigate(`/sites/${id}/bench`)}
    />
  );
}
