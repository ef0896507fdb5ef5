import { Button, type ButtonProps } from "antd";
import type { ReactNode } from "react";
import { useHref, useLinkClickHandler } from "react-router";

/** A button that leads to another screen: it can be opened in a tab of its own, like every link. */
export function ButtonLink(props: Omit<ButtonProps, "href" | "onClick"> & { to: string }): ReactNode {
  const { to, ...rest } = props;
  const href = useHref(to);
  const go = useLinkClickHandler<HTMLAnchorElement>(to);
  return <Button {...rest} href={href} onClick={(event) => go(event as React.MouseEvent<HTMLAnchorElement>)} />;
}
