// Ant Design's components under Waka's tokens, for the whole page.
import { App, ConfigProvider } from "antd";
import type { ReactNode } from "react";
import { useScheme } from "./scheme";
import { antTheme, applyTokens, dark } from "./theme";

/** Styles that the library writes bear the nonce of the page: the content security policy lets no others in. */
const nonce = document.querySelector('meta[name="waka-nonce"]')?.getAttribute("content") ?? "";

export function Look(props: { children: ReactNode }): ReactNode {
  const tokens = useScheme();
  applyTokens(tokens);
  return (
    <ConfigProvider theme={antTheme(tokens, tokens === dark)} csp={{ nonce }} button={{ autoInsertSpace: false }}>
      <App component={false}>{props.children}</App>
    </ConfigProvider>
  );
}
