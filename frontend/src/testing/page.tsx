// A screen, or a part of one, as it stands in the page: with addresses, answers kept, keys and the notice at the foot.
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent, { type UserEvent } from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { KeysProvider } from "../ui/keys";
import { NoticeProvider } from "../ui/notices";

/** Shows `node` at `address` of the route `path`; the person at its mouse and keyboard. */
export function show(node: ReactNode, address = "/", path = "*"): UserEvent {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5_000 } } })}>
      <MemoryRouter initialEntries={[address]}>
        <NoticeProvider>
          <KeysProvider>
            <Routes>
              <Route path={path} element={node} />
              <Route path="*" element={null} />
            </Routes>
            <Where />
          </KeysProvider>
        </NoticeProvider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}

function Where(): ReactNode {
  const { pathname, search } = useLocation();
  return <output aria-label="address">{pathname + search}</output>;
}

/** The address that the screen led to. */
export function address(): string {
  return screen.getByLabelText("address").textContent ?? "";
}

/** What the notice at the foot says. */
export function notice(): string {
  return screen
    .getAllByRole("status")
    .map((one) => one.querySelector(".notice")?.textContent ?? "")
    .join("");
}

/** Choose from a list that opens. */
export async function choose(user: UserEvent, label: string, option: string): Promise<void> {
  await user.click(screen.getByRole("combobox", { name: label }));
  await user.click(await screen.findByText(option, { selector: ".ant-select-item-option-content" }));
}

/** Choose one of a few that stand beside each other. */
export async function pick(user: UserEvent, name: string): Promise<void> {
  await user.click(await screen.findByText(name, { selector: ".ant-segmented-item-label" }));
}
