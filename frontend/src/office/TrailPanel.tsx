import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Button, DatePicker, Select, Table } from "antd";
import type { Dayjs } from "dayjs";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { moment } from "../ui/format";
import { Failed, Loading } from "../ui/states";
import { SAY } from "../ui/wording";

const PAGE = 200;

/** What became of people, log-ins, groups and settings: who, when, from where. It is written for good. */
export function TrailPanel(): ReactNode {
  const [who, setWho] = useState<number>();
  const [code, setCode] = useState<string>();
  const [days, setDays] = useState<[Dayjs | null, Dayjs | null] | null>(null);
  const people = useQuery({ queryKey: keys.people, queryFn: () => data(client.GET("/api/people")) });
  const asked = {
    who,
    code,
    since: days?.[0]?.format("YYYY-MM-DD"),
    until: days?.[1]?.format("YYYY-MM-DD"),
  };
  const trail = useInfiniteQuery({
    queryKey: keys.officeTrail({ ...asked, who: who?.toString() }),
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/office/trail", { params: { query: { ...asked, before: pageParam } } })),
    getNextPageParam: (page) => (page.lines.length === PAGE ? page.lines.at(-1)?.id : undefined),
  });
  const lines = trail.data?.pages.flatMap((page) => page.lines) ?? [];
  const query = new URLSearchParams(
    Object.entries({ ...asked, who: who?.toString() }).filter((one): one is [string, string] => one[1] !== undefined),
  );
  return (
    <>
      <div className="acts">
        <Select
          className="office-find"
          allowClear
          aria-label="Of whom"
          placeholder="Everybody"
          value={who}
          showSearch={{ optionFilterProp: "label" }}
          options={people.data?.people.map((one) => ({ value: one.id, label: `${one.name} (${one.login})` }))}
          onChange={setWho}
        />
        <Select
          className="office-find"
          allowClear
          aria-label="What"
          placeholder="Everything"
          value={code}
          options={trail.data?.pages[0]?.codes.map((one) => ({ value: one, label: one }))}
          onChange={setCode}
        />
        <DatePicker.RangePicker format="D MMM YYYY" allowEmpty={[true, true]} value={days} onChange={setDays} />
        <Button href={`/api/office/trail.csv?${query}`}>Save as CSV</Button>
      </div>
      {trail.isError && !trail.data && <Failed what="The trail" error={trail.error} onAgain={trail.refetch} />}
      {!trail.data && !trail.isError && <Loading rows={10} />}
      {trail.data && (
        <Table<Schemas["HappenedOut"]>
          size="small"
          rowKey="id"
          pagination={false}
          dataSource={lines}
          locale={{ emptyText: "Nothing like that happened." }}
          columns={[
            { title: "When", className: "nowrap", render: (_, one) => moment(one.at) },
            { title: "Who", render: (_, one) => one.by ?? "" },
            { title: "What", dataIndex: "text" },
            { title: "Whom", render: (_, one) => one.whom ?? "" },
            { title: "From", dataIndex: "address", className: "nowrap" },
          ]}
        />
      )}
      {trail.hasNextPage && (
        <Button loading={trail.isFetchingNextPage} onClick={() => void trail.fetchNextPage()}>
          {SAY.showEarlier}
        </Button>
      )}
    </>
  );
}
