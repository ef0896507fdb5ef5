// Ant Design's controls under Waka's theme. Only lazily loaded screens import this: the first load stays small.
import { ConfigProvider } from "antd";
import type { ReactNode } from "react";
import { useScheme } from "./scheme";
import { antTheme } from "./theme";

const nonce = document.querySelector('meta[name="waka-nonce"]')?.getAttribute("content") ?? "";

export function Controls(props: { children: ReactNode }): ReactNode {
  const tokens = useScheme();
  return (
    <ConfigProvider theme={antTheme(tokens)} csp={{ nonce }} button={{ autoInsertSpace: false }}>
      {props.children}
    </ConfigProvider>
  );
}
