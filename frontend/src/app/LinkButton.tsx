import { Button, type ButtonProps } from "antd";
import { type To, useHref, useLinkClickHandler } from "react-router";

type Props = Omit<ButtonProps, "href" | "onClick"> & { to: To; leaving?: () => void };

/** A link that looks like a button: one element, where a button inside a link would be two. */
export function LinkButton({ to, leaving, ...button }: Props) {
  const follow = useLinkClickHandler(to);
  return (
    <Button
      {...button}
      href={useHref(to)}
      onClick={(event) => {
        leaving?.();
        follow(event as React.MouseEvent<HTMLAnchorElement>);
      }}
    />
  );
}
