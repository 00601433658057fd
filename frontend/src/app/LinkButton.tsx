import { Button, type ButtonProps } from "antd";
import { type To, useHref, useLinkClickHandler } from "react-router";

/** A link that looks like a button: one element, where a button inside a link would be two. */
export function LinkButton({ to, ...button }: Omit<ButtonProps, "href" | "onClick"> & { to: To }) {
  const follow = useLinkClickHandler(to);
  return (
    <Button
      {...button}
      href={useHref(to)}
      onClick={(event) => follow(event as React.MouseEvent<HTMLAnchorElement>)}
    />
  );
}
