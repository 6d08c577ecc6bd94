import { expect, test } from "vitest";

import { refusedPhoto } from "./PhotoNote";

const file = (name: string, type: string, bytes: number) => new File([new Uint8Array(bytes)], name, { type });

test.each([
  [file("joint.jpg", "image/jpeg", 5_000_000), null],
  [file("joint.png", "image/png", 24_000_000), null],
  [file("film.mp4", "video/mp4", 100), "film.mp4 is video/mp4: take a JPEG, PNG or WebP picture."],
  [file("notes", "", 100), "notes is of no known kind: take a JPEG, PNG or WebP picture."],
  [file("joint.jpg", "image/jpeg", 60_000_000), "joint.jpg has 60 MB: take one of at most 24 MB."],
  [file("joint.jpg", "image/jpeg", 0), "joint.jpg is empty."],
])("a file is taken for a photo, or it is said why not", (taken, told) => {
  expect(refusedPhoto(taken)).toBe(told);
});
