import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Alert, Button, Segmented } from "antd";
import { type ReactNode, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, data, isGone, type Schemas, Trouble } from "../api/client";
import { askAllAgain, keys } from "../api/keys";
import { ButtonLink } from "../ui/ButtonLink";
import { type Key, useKeys, useUndoAction } from "../ui/keys";
import { useNotices, words } from "../ui/notices";
import { Sides } from "../ui/Sides";
import { Failed, Loading } from "../ui/states";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { AsSeen } from "./AsSeen";
import { BLANK, GiveFields, type Typed, usePrincipals } from "./GiveFields";
import { Pending } from "./Pending";
import { ReaderTable } from "./ReaderTable";
import { asked, count, dropped, NONE, restricting, type Wish, type Wishes, wished } from "./wishes";
import { sourceWords, whySentence } from "./words";
import "../ui/acts.css";
import "./access.css";

type Told = Schemas["ReadersOut"];

/** Who reads a folder or a document, and why; for its keepers to change. */
export default function ReadersPage(): ReactNode {
  const parameters = useParams();
  const folder = parameters.folder ? Number(parameters.folder) : null;
  const document = parameters.document ? Number(parameters.document) : null;
  const readers = useQuery({
    queryKey: keys.readers(folder, document),
    queryFn: () =>
      folder !== null
        ? data(client.GET("/api/access/folders/{folder}", { params: { path: { folder } } }))
        : data(client.GET("/api/access/documents/{document}", { params: { path: { document: document ?? 0 } } })),
  });
  if (readers.isError && (!readers.data || isGone(readers.error)))
    return (
      <main className="main">
        <Failed what="Who reads this" error={readers.error} onAgain={readers.refetch}>
          <Link to="/drive">{SAY.goToDrive}</Link>
        </Failed>
      </main>
    );
  if (!readers.data)
    return (
      <main className="main">
        <Loading rows={8} />
      </main>
    );
  const back = folder !== null ? `/drive/${folder}` : `/documents/${document}`;
  if (!readers.data.keeps) return <Mine told={readers.data} back={back} />;
  return <Kept key={`${folder} ${document}`} told={readers.data} back={back} />;
}

/** For who does not keep it: why they may read it, and who keeps it. */
function Mine(props: { told: Told; back: string }): ReactNode {
  const { told } = props;
  return (
    <main className="main readers-mine">
      <h1>Who reads {told.name}</h1>
      <p>{whySentence("You", told.name, told.mine)}</p>
      <p className={styles.quiet}>
        {told.keepers.length
          ? `${told.keepers.join(", ")} keep it, and see and change who reads it.`
          : "Nobody keeps it today."}
      </p>
      <ButtonLink to={props.back}>Back</ButtonLink>
    </main>
  );
}

function Kept(props: { told: Told; back: string }): ReactNode {
  const { told } = props;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const [wishes, setWishes] = useState<Wishes>(NONE);
  const [typed, setTyped] = useState<Typed>(BLANK);
  const [chosen, setChosen] = useState<Schemas["ReaderOut"] | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const principals = usePrincipals();
  const restricted = wishes.restricted ?? told.restricted;
  const wish = (one: Wish) => {
    setProblem(null);
    setWishes((now) => wished(now, one));
  };
  const put = () => {
    const whom = principals.find((one) => one.id === typed.whom);
    if (!whom) return;
    const had = told.rows.find((row) => row.id === whom.id)?.here ?? null;
    wish({
      principal: whom.id,
      name: whom.name,
      had,
      to: { level: typed.level, until: typed.until },
      word: typed.word,
    });
    setTyped(BLANK);
  };
  const go = () => {
    if (busy || !count(wishes)) return;
    setBusy(true);
    setProblem(null);
    data(
      client.POST("/api/access", { body: { wishes: asked(wishes, { folder: told.folder, document: told.document }) } }),
    )
      .then(
        (done) => {
          setWishes(NONE);
          tell(
            done.queued
              ? {
                  text: `The worker does it now: ${done.title}`,
                  action: { label: "Watch", run: () => void navigate(`/manifests/${done.manifest}`) },
                }
              : { text: done.title, action: { label: SAY.undo, run: undo } },
          );
        },
        (error: unknown) =>
          setProblem(
            error instanceof Trouble && error.code === "stale"
              ? `${words(error)} The list shows how it is now; drop that change or make it anew.`
              : words(error),
          ),
      )
      .finally(() => {
        setBusy(false);
        void askAllAgain(queries);
      });
  };
  const shortcuts = useMemo<Key[]>(
    () => [
      {
        keys: "Ctrl+Enter",
        what: "Do the changes",
        anywhere: true,
        match: (event) => (event.ctrlKey || event.metaKey) && event.key === "Enter",
        run: () => window.document.querySelector<HTMLElement>("#do-changes .ant-btn-primary")?.click(),
      },
    ],
    [],
  );
  useKeys(shortcuts);
  // told again after every change, by whoever
  const now = chosen ? (told.rows.find((row) => row.id === chosen.id) ?? null) : null;
  return (
    <main className="readers-page">
      <Sides
        name="readers"
        end={{
          width: [380, 330],
          content: (
            <aside id="do-changes" aria-label="Changes">
              <Pending
                told={told}
                wishes={wishes}
                busy={busy}
                problem={problem}
                onDrop={(principal) => setWishes(dropped(wishes, principal))}
                onOpen={() => setWishes({ ...wishes, restricted: null })}
                onDo={go}
                onLeave={() => {
                  setProblem(null);
                  setWishes(NONE);
                }}
              />
            </aside>
          ),
        }}
      >
        <section className="readers-pane" aria-label="Who reads it">
          <div className="readers-head">
            <h1>
              Who reads <b>{told.name}</b>
            </h1>
            <span className="spread" />
            {told.folder !== null && <Button href={`/api/access/folders/${told.folder}.csv`}>Save as CSV</Button>}
            <ButtonLink to={props.back}>Back to {told.folder !== null ? "the folder" : "the document"}</ButtonLink>
          </div>
          <form
            className="give"
            onSubmit={(event) => {
              event.preventDefault();
              put();
            }}
          >
            <b>Give access</b>
            <GiveFields typed={typed} single={told.document !== null} onChange={setTyped} />
            <Button htmlType="submit" disabled={typed.whom === null}>
              Put on the list
            </Button>
          </form>
          <Added wishes={wishes} told={told} />
          <ReaderTable
            told={told}
            wishes={wishes}
            chosen={chosen?.id ?? null}
            onWish={wish}
            onDrop={(principal) => setWishes(dropped(wishes, principal))}
            onChoose={setChosen}
          />
          {told.folder !== null && (
            <div className="acts readers-restrict">
              <b>This folder is</b>
              <Segmented
                aria-label="Whether this folder is restricted"
                options={[
                  { value: "open", label: "open to what is given above" },
                  { value: "restricted", label: "restricted" },
                ]}
                value={restricted ? "restricted" : "open"}
                onChange={(value) => setWishes(restricting(wishes, value === "restricted", told.restricted, told.rows))}
              />
              <span className={styles.quiet}>Restricted: only what is given here counts.</span>
            </div>
          )}
          {now && (
            <Alert
              type="info"
              className="readers-why"
              title={
                now.kind === "group"
                  ? `${now.name}: ${now.sources.map(sourceWords).join("; ") || "nothing that counts today"}.`
                  : whySentence(now.name, told.name, now.sources)
              }
            />
          )}
          <AsSeen
            whom={chosen?.kind === "person" ? chosen.id : null}
            onWhom={(person) => {
              const row = told.rows.find((one) => one.id === person);
              setChosen(row ?? blank(person, principals));
            }}
          />
        </section>
      </Sides>
    </main>
  );
}

/** Somebody who is not on the list: nothing is given to them. */
function blank(person: number, principals: Schemas["PrincipalOut"][]): Schemas["ReaderOut"] | null {
  const one = principals.find((principal) => principal.id === person);
  return one ? { ...one, level: null, here: null, sources: [], people: [] } : null;
}

/** Whom the gathered changes put on the list who is not on it. */
function Added(props: { wishes: Wishes; told: Told }): ReactNode {
  const added = props.wishes.given.filter((one) => one.to && !props.told.rows.some((row) => row.id === one.principal));
  if (!added.length) return null;
  return (
    <p className="readers-added" role="status">
      To be given here: {added.map((one) => `${one.name} (${one.to?.level})`).join(", ")}.
    </p>
  );
}
