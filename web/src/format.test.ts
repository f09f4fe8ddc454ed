import { afterEach, describe, expect, it } from "vitest";
import {
  addDays,
  counted,
  dateOf,
  day,
  days,
  hm,
  hours,
  instantOf,
  inTen,
  lengthKept,
  lengthShown,
  lengthUnit,
  logged,
  money,
  percent,
  readIn,
  scaleMark,
  size,
  takeShopWays,
  timeOf,
  today,
  tradeName,
  wait,
  words,
} from "./format";

const ways = (timeZone: string, now = "2026-10-13T09:42:00Z") => takeShopWays({ timeZone, currency: "GBP" }, now);
afterEach(() => ways("UTC"));

describe("wall times of the shop", () => {
  it.each([
    ["Europe/London", "2026-10-13", "10:42", "2026-10-13T09:42:00.000Z"],
    ["Europe/London", "2026-12-01", "08:00", "2026-12-01T08:00:00.000Z"],
    ["America/New_York", "2026-10-13", "08:00", "2026-10-13T12:00:00.000Z"],
    ["Asia/Kolkata", "2026-10-13", "00:15", "2026-10-12T18:45:00.000Z"],
    ["Pacific/Auckland", "2026-10-13", "08:00", "2026-10-12T19:00:00.000Z"],
  ])("in %s, %s %s", (zone, date, time, instant) => {
    ways(zone);
    expect(instantOf(date, time)).toBe(instant);
    expect([dateOf(instant), timeOf(instant)]).toEqual([date, time]);
  });

  it.each([
    // Clocks go forward at 02:00 and back at 02:00 in New York, 01:00 UTC in London.
    ["America/New_York", "2026-03-08", "01:30", "2026-03-08T06:30:00.000Z"],
    ["America/New_York", "2026-03-08", "03:30", "2026-03-08T07:30:00.000Z"],
    ["America/New_York", "2026-03-08", "08:00", "2026-03-08T12:00:00.000Z"],
    ["America/New_York", "2026-11-01", "03:30", "2026-11-01T08:30:00.000Z"],
    ["Europe/London", "2026-03-29", "02:30", "2026-03-29T01:30:00.000Z"],
    ["Europe/London", "2026-10-25", "00:30", "2026-10-24T23:30:00.000Z"],
    ["Pacific/Auckland", "2026-09-27", "08:00", "2026-09-26T19:00:00.000Z"],
  ])("on the day the clocks change in %s, %s %s", (zone, date, time, instant) => {
    ways(zone);
    expect(instantOf(date, time)).toBe(instant);
  });

  it("takes today from the server and the shop, not from the browser", () => {
    ways("Pacific/Auckland", "2026-10-13T12:30:00Z");
    expect(today()).toBe("2026-10-14");
    ways("America/New_York", "2026-10-13T02:30:00Z");
    expect(today()).toBe("2026-10-12");
  });
});

describe("the reader's own way with dates and numbers", () => {
  afterEach(() => readIn("en-GB"));
  it.each([
    ["en-US", "Sep 4", "£1,234.50", "2.5"],
    ["en-GB", "4 Sep", "£1,234.50", "2.5"],
    ["de-AT", "4 Sep", "£ 1.234,50", "2,5"],
    ["not a language", "4 Sep", "£1,234.50", "2.5"],
  ])("%s", (language, date, amount, hour) => {
    ways("UTC");
    readIn(language);
    const plain = (text: string) => text.replace(/\s/g, " ");
    expect([day("2026-09-04"), plain(money(1234.5)), hours(150)].map(plain)).toEqual([date, amount, hour]);
    // What the code itself reads does not depend on who reads the page.
    expect([dateOf("2026-09-04T08:05:00Z"), timeOf("2026-09-04T00:05:00Z")]).toEqual(["2026-09-04", "00:05"]);
  });
});

describe("figures in words", () => {
  it("writes a day without its year while that is this one", () => {
    ways("UTC");
    expect(day("2026-09-04")).toBe("4 Sep");
    expect(day("2027-01-04")).toBe("4 Jan 2027");
    expect(day(null)).toBe("–");
  });

  it.each([
    [0, "0:00"],
    [9, "0:09"],
    [107, "1:47"],
    [27_240, "454:00"],
    [-65, "−1:05"],
  ])("logged minutes: %i", (minutes, text) => expect(hm(minutes)).toBe(text));

  it.each([
    [0, "0"],
    [258, "4.3"],
    [300, "5"],
    [599, "10"],
    [25_230, "421"],
    [-90, "−1.5"],
  ])("planned minutes: %i", (minutes, text) => expect(hours(minutes)).toBe(text));

  it("writes money in the shop's currency, to the cent, with a true minus", () => {
    ways("UTC");
    expect(money(1234.5)).toBe("£1,234.50");
    expect(money(-0.05)).toBe("−£0.05");
  });

  it("writes shares, days and names plainly", () => {
    expect([percent(0.5549), percent(1)]).toEqual(["55 %", "100 %"]);
    expect([days(2.04), days(9.95), days(12.5)]).toEqual(["2", "10", "13"]);
    expect(words("separateChassis")).toBe("separate chassis");
  });
});

describe("lengths", () => {
  const us = () => takeShopWays({ timeZone: "UTC", currency: "USD", units: "us" }, undefined);

  it("are written in millimetres and metres, or in inches and feet", () => {
    ways("UTC");
    expect([lengthUnit(), lengthShown(4480), lengthKept(4480), size(6700, 4450)]).toEqual(["mm", 4480, 4480, "6.7 x 4.45 m"]);
    us();
    expect([lengthUnit(), lengthShown(4480), size(6700, 4450)]).toEqual(["in", 176.38, "22 x 14.6 ft"]);
    expect(scaleMark()).toEqual({ mm: 304.8, unit: "ft", bar: 6 });
  });

  it("come back as the same millimetres after being written in inches, for every length up to seven metres", () => {
    us();
    for (let mm = 0; mm <= 7000; mm++) expect(lengthKept(lengthShown(mm))).toBe(mm);
  });
});

it("counts days on over the ends of months and years", () => {
  expect([addDays("2026-10-13", 21), addDays("2026-12-31", 1), addDays("2028-03-01", -1)]).toEqual([
    "2026-11-03",
    "2027-01-01",
    "2028-02-29",
  ]);
});

it("speaks a share of futures, and never of certainty that is none", () => {
  expect([0, 0.01, 0.1, 0.33, 0.75, 0.97, 1].map(inTen)).toEqual([
    "hardly ever",
    "hardly ever",
    "once in ten",
    "3 times in 10",
    "8 times in 10",
    "nearly always",
    "nearly always",
  ]);
});

describe("a count with its word", () => {
  it("has one of a thing and many things", () => {
    expect([0, 1, 2].map((n) => counted(n, "bag"))).toEqual(["0 bags", "1 bag", "2 bags"]);
  });
});

it("says waits and logged time in the unit that people would", () => {
  expect([60 * 12, 1440 * 3, 1440 * 10, 1440 * 14, 1008 * 60].map(wait)).toEqual(["12 h", "3 days", "10 days", "2 weeks", "6 weeks"]);
  expect([0, 2, 60, 125].map(logged)).toEqual(["0 min", "2 min", "1:00 h", "2:05 h"]);
  expect(tradeName("hand")).toBe("helper");
});
