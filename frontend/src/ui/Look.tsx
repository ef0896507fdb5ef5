// Ant Design's components under Waka's tokens, for the whole page.
import { App, ConfigProvider } from "antd";
import { type ReactNode, useLayoutEffect } from "react";
import { nonce } from "./nonce";
import { useScheme } from "./scheme";
import { antTheme, applyTokens, dark } from "./theme";

export function Look(props: { children: ReactNode }): ReactNode {
  const tokens = useScheme();
  // together with the library's own sheets, which come with the drawing
  useLayoutEffect(() => applyTokens(tokens), [tokens]);
  return (
    <ConfigProvider theme={antTheme(tokens, tokens === dark)} csp={{ nonce }} button={{ autoInsertSpace: false }}>
      <App component={false}>{props.children}</App>
    </ConfigProvider>
  );
}
