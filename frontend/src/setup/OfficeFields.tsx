import { Form, Input, Segmented, Select } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { MONTHS } from "../ui/format";

const languages = new Intl.DisplayNames("en", { type: "language" });
const currencies = new Intl.DisplayNames("en", { type: "currency" });

/** The fields of how an office is set up, for a form that is about it. */
export function OfficeFields(props: { choices: Schemas["OfficeChoices"]; autoFocus?: boolean }): ReactNode {
  const { choices } = props;
  return (
    <>
      <Form.Item
        name="office_name"
        label="What your office is called"
        rules={[{ required: true, message: "Write what your office is called." }]}
      >
        <Input maxLength={200} autoFocus={props.autoFocus} autoComplete="organization" />
      </Form.Item>
      <Form.Item name="time_zone" label="Time zone">
        <Select
          showSearch={{ optionFilterProp: "label" }}
          options={choices.time_zones.map((zone) => ({ value: zone, label: zone.replaceAll("_", " ") }))}
        />
      </Form.Item>
      <Form.Item name="language" label="Language of names and dates" extra="The screens are in English.">
        <Select options={choices.languages.map((one) => ({ value: one, label: languages.of(one) }))} />
      </Form.Item>
      <Form.Item name="currency" label="Currency">
        <Select
          showSearch={{ optionFilterProp: "label" }}
          options={choices.currencies.map((one) => ({ value: one, label: `${one} · ${currencies.of(one)}` }))}
        />
      </Form.Item>
      <Form.Item name="month_first" label="On papers, 03/04 means">
        <Segmented
          options={[
            { value: false, label: "3 April" },
            { value: true, label: "March 4" },
          ]}
        />
      </Form.Item>
      <Form.Item name="financial_year_starts" label="Your year begins in">
        <Select options={MONTHS.map((month, at) => ({ value: at + 1, label: month }))} />
      </Form.Item>
    </>
  );
}
