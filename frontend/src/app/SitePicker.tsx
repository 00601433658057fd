import { Select } from "antd";
import { useDeferredValue, useState } from "react";

import type { Site } from "../api/client";
import { useFoundSites } from "../api/sites";

type Props = {
  label: string;
  chosen: Site | undefined;
  choose: (site: Site) => void;
  className?: string;
  /** Which of the found ones can be chosen. */
  fits?: (site: Site) => boolean;
};

/** One of the sites: the first ones are listed, any other is found by a word of it. */
export function SitePicker({ label, chosen, choose, className = "", fits = () => true }: Props) {
  const [search, setSearch] = useState("");
  const found = (useFoundSites(useDeferredValue(search)).data ?? []).filter(fits);
  const listed = chosen && !search && !found.some(({ id }) => id === chosen.id) ? [chosen, ...found] : found;
  return (
    <Select
      className={className}
      aria-label={label}
      placeholder="Choose a site"
      showSearch={{ filterOption: false, onSearch: setSearch }}
      {...(chosen ? { value: chosen.id } : {})}
      options={listed.map(({ id, name }) => ({ value: id, label: name, title: name }))}
      labelRender={({ label: shown }) => shown ?? chosen?.name}
      onChange={(id) => {
        const site = listed.find((one) => one.id === id);
        setSearch("");
        if (site) choose(site);
      }}
      notFoundContent="No site matches."
      popupMatchSelectWidth={false}
    />
  );
}
