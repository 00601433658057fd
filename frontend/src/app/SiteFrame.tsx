import { App as AntApp, Select } from "antd";
import type { ReactNode } from "react";
import { createPortal } from "react-dom";
import { NavLink, Outlet, useLocation, useNavigate, useOutletContext, useParams } from "react-router";

import type { Site } from "../api/client";
import { useSites } from "../api/sites";
import { BuildButton } from "./BuildButton";
import { ErrorPage } from "./ErrorPage";
import { Loading } from "./Loading";
import { ProblemNotice } from "./ProblemNotice";
import styles from "./siteFrame.module.css";
import { VIEWS } from "./views";

export const useSite = () => useOutletContext<Site>();

/** The five views of one site, with its navigation in the bar. */
export function SiteFrame() {
  const siteId = Number(useParams().siteId);
  const { pathname } = useLocation();
  const sites = useSites();
  const site = sites.data?.find((known) => known.id === siteId);
  if (sites.isPending) return <Loading what="Opening the site" />;
  if (!sites.data) return <ProblemNotice problem={sites.error} retry={() => void sites.refetch()} />;
  if (!site) return <ErrorPage />;
  return (
    <>
      <title>{[viewOf(pathname), site.name, "Bexi"].filter(Boolean).join(" · ")}</title>
      <InBar>
        <SiteSwitch site={site} sites={sites.data} />
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

function SiteSwitch({ site, sites }: { site: Site; sites: Site[] }) {
  const navigate = useNavigate();
  return (
    <Select
      className={styles.switch ?? ""}
      aria-label="Site"
      value={site.id}
      options={sites.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={(id) => void navigate(`/sites/${id}/bench`)}
      popupMatchSelectWidth={false}
    />
  );
}
