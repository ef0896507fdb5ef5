import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useCallback, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { type Column, DocGrid } from "../parts/lines/DocGrid";
import { useUnkept } from "../parts/typing/drafts";
import { Unkept } from "../parts/typing/Unkept";
import { count } from "../ui/format";
import { Sides } from "../ui/Sides";
import { Failed, Loading, Nothing } from "../ui/states";
import { CardEditor, cardPlace, type Draft, EMPTY, NEW_CARD } from "./CardEditor";
import { Lacking } from "./Lacking";
import { Table } from "./Table";
import "../parts/beside.css";
import "./parties.css";
import styles from "../ui/text.module.css";

type Card = Schemas["PartyCardOut"];
const cardId = (card: Card) => card.id;
const nothing = () => {};
const across = (): undefined => undefined;

/** The party register: who papers come from and go to, and all the names they are known by. */
export default function PartiesPage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const chosen = parameters.party ? Number(parameters.party) : null;
  const [typed, setTyped] = useState("");
  const [draft, setDraft] = useState<Draft | null>(null);
  const register = useQuery({ queryKey: keys.register, queryFn: () => data(client.GET("/api/register")) });
  const told = register.data;
  const unkept = useUnkept();
  const parties = useMemo(() => (told?.parties ?? []).filter((card) => isMeant(card, typed)), [told, typed]);
  const columns = useMemo<Column<Card>[]>(
    () => [
      {
        key: "name",
        label: "Name",
        width: "minmax(130px, 1.2fr)",
        cell: (card) => (
          <>
            {card.removed ? <s className={styles.quiet}>{card.name}</s> : card.name}
            {unkept(cardPlace(card.id)) && <Unkept />}
          </>
        ),
      },
      {
        key: "short",
        label: "In names",
        width: "minmax(96px, 0.8fr)",
        cell: (card) => <span className="mono">{card.short}</span>,
      },
      { key: "code", label: "Code", width: "56px", cell: (card) => <span className="mono">{card.code}</span> },
      {
        key: "aliases",
        label: "Also called",
        width: "minmax(70px, 1fr)",
        cell: (card) => <span title={card.aliases.join("\n")}>{card.aliases.join(", ")}</span>,
      },
      {
        key: "area",
        label: "Area",
        width: "minmax(60px, 96px)",
        cell: (card) =>
          card.area === null ? (
            <span className={styles.quiet}>all</span>
          ) : (
            (told?.areas.find((area) => area.id === card.area)?.name ?? "")
          ),
      },
      {
        key: "documents",
        label: "Documents",
        width: "84px",
        right: true,
        cell: (card) => (card.documents ? count(card.documents) : <span className={styles.quiet}>none</span>),
      },
    ],
    [told, unkept],
  );
  const choose = useCallback(
    (party: number) => {
      setDraft(null);
      void navigate(`/parties/${party}`, { replace: true });
    },
    [navigate],
  );
  const open = useCallback(() => document.getElementById("card-name")?.focus(), []);
  const mayEnter = told !== undefined && (told.common || told.enter.length > 0);
  return (
    <main className="parties">
      <Sides
        name="parties"
        end={{
          width: [360, 320],
          content: (
            <aside className="way-pane" aria-label="The chosen party">
              {told && (
                <CardEditor
                  key={draft ? `new ${draft.name}` : (chosen ?? 0)}
                  party={draft ? null : chosen}
                  draft={draft}
                  register={told}
                  onDone={choose}
                  onLeave={() => setDraft(null)}
                />
              )}
            </aside>
          ),
        }}
      >
        <section className="parties-pane" aria-label="The register">
          <div className="ledger-head">
            <h1>Parties</h1>
            <Input
              value={typed}
              placeholder="name, short name, code or number"
              aria-label="Show parties by name, short name, code or number"
              maxLength={120}
              onChange={(event) => setTyped(event.target.value)}
            />
            <span className={`${styles.quiet} ${styles.small}`} role="status">
              {told &&
                (typed ? `${count(parties.length)} of ${count(told.parties.length)}` : count(told.parties.length))}
            </span>
            <span className="spread" />
            {mayEnter && (
              <Button onClick={() => setDraft({ ...EMPTY, area: common(told) })}>
                New party
                {!draft && unkept(`${NEW_CARD}/`) && <Unkept />}
              </Button>
            )}
            <Table />
          </div>
          <Lacking
            mayEnter={mayEnter}
            onEnter={(found) => setDraft({ ...EMPTY, ...found, area: told ? common(told) : null })}
          />
          {register.isError && !told ? (
            <Failed what="The register" error={register.error} onAgain={register.refetch} />
          ) : !told ? (
            <Loading />
          ) : !parties.length ? (
            <Nothing title={typed ? `No party is named “${typed}”` : "The register is empty"}>
              A party is an organisation or a person that papers come from or go to. Its short name stands in the names
              of documents; its code is for quick typing.
            </Nothing>
          ) : (
            <DocGrid
              label="Parties"
              lines={parties}
              columns={columns}
              id={cardId}
              across={across}
              acrossColumns={1}
              chosen={draft ? null : chosen}
              onChoose={choose}
              onOpen={open}
              sort=""
              descending={false}
              onSort={nothing}
              onEnd={nothing}
              more={false}
              total={parties.length}
            />
          )}
        </section>
      </Sides>
    </main>
  );
}

/** The area that a new entry is for at first: all of them, where one may. */
function common(told: Schemas["RegisterOut"]): number | null {
  return told.common ? null : (told.enter[0]?.id ?? null);
}

function isMeant(card: Card, typed: string): boolean {
  const text = typed.trim().toLowerCase();
  if (!text) return true;
  return (
    card.code.toLowerCase() === text ||
    [card.name, card.short, ...card.aliases, ...card.numbers].some((one) => one.toLowerCase().includes(text))
  );
}
