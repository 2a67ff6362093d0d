"use client";

import { useMemo } from "react";
import type { Report, ReportCourse, ReportSection, ReportTable } from "@/core/handover/report/reportSchema";
import { REPORT_LANGUAGES } from "@/core/handover/report/words/reportLanguages";
import { LineChart } from "@/ui/parts/show/LineChart";
import { VectorDrawing } from "@/ui/parts/show/VectorDrawing";

interface Props {
  readonly jobId: string;
  readonly report: Report;
}

/** A report as a page: word for word what its PDF and its data say. */
export function ReportSheet({ jobId, report }: Props) {
  const { words } = REPORT_LANGUAGES[report.language];
  return (
    <article lang={report.language} aria-label={words.reportOf(report.job)} className="space-y-5">
      <header>
        <h3 className="text-2xl font-bold">{report.job}</h3>
        <p>{[report.place, report.printed].filter(Boolean).join(", ")}</p>
        <p className="text-lg font-bold">{report.state === words.items.state(0) ? words.done : report.state}</p>
      </header>
      <nav aria-label={words.contents}>
        <ol className="columns-2 gap-4 text-sm max-md:columns-1">
          {report.sections.map(({ id, title }, at) => (
            <li key={id}>
              <a href={`#report-${id}`} className="link press inline-flex items-center">
                {at + 1}. {title}
              </a>
            </li>
          ))}
        </ol>
      </nav>
      {report.sections.map((section, at) => (
        <Section key={section.id} jobId={jobId} section={section} number={at + 1} />
      ))}
    </article>
  );
}

function Section({ jobId, section, number }: { jobId: string; section: ReportSection; number: number }) {
  const { id, title, lines, drawings, tables, courses, pictures } = section;
  return (
    <section aria-labelledby={`report-${id}`} className="space-y-3">
      <h4 id={`report-${id}`} className="border-b border-base-content text-lg font-bold">
        {number}. {title}
      </h4>
      {lines.map((line) => (
        <p key={line} className="wrap-anywhere">
          {line}
        </p>
      ))}
      {drawings.map((drawing) => (
        <VectorDrawing key={drawing.title} drawing={drawing} />
      ))}
      {tables.map((table, at) => (
        <Table key={at} table={table} about={title} />
      ))}
      {courses.map((course, at) => (
        <Course key={at} course={course} />
      ))}
      <div className="grid grid-cols-2 gap-3 max-md:grid-cols-1">
        {pictures.map((picture) => (
          <figure key={picture.id}>
            {/* eslint-disable-next-line @next/next/no-img-element -- its own route, no image service */}
            <img
              src={`/api/v1/jobs/${jobId}/photos/${picture.id}`}
              alt={picture.caption}
              className="max-h-60 rounded border border-base-300"
              loading="lazy"
            />
            <figcaption className="text-sm">{picture.caption}</figcaption>
          </figure>
        ))}
      </div>
    </section>
  );
}

/** On a phone each row is a block, and each cell says what it is of. */
function Table({ table: { title, heads, rows }, about }: { table: ReportTable; about: string }) {
  return (
    <table className="w-full text-left text-sm max-md:block">
      <caption className={title === "" ? "sr-only" : "text-left font-bold max-md:block"}>{title || about}</caption>
      <thead className="max-md:sr-only">
        <tr>
          {heads.map((head) => (
            <th key={head} scope="col" className="pr-3 align-bottom">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="max-md:block">
        {rows.map((row, at) => (
          <tr key={at} className="border-t border-base-300 max-md:block max-md:py-1">
            {row.map((cell, place) => (
              <td
                key={place}
                data-head={heads[place]}
                className={
                  "py-0.5 pr-3 align-top wrap-anywhere max-md:block max-md:before:mr-1 max-md:before:font-semibold " +
                  `max-md:before:content-[attr(data-head)_":"] ${cell === "" ? "max-md:hidden" : ""}`
                }
              >
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Course({ course: { title, unit, tS, values, mark } }: { course: ReportCourse }) {
  const lines = useMemo(() => [{ name: title, values }], [title, values]);
  return (
    <figure>
      <figcaption className="font-bold">{title}</figcaption>
      <LineChart label={title} at={tS} lines={lines} unit={unit} atUnit="s" heightPx={180} mark={mark} />
    </figure>
  );
}
