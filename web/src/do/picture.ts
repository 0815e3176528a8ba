const LONGEST_PX = 1600;
const MOST_BYTES = 60_000_000;

/** A picture as it is sent: upright, small, and without where it was taken. Null for what is no picture. */
export async function smaller(file: Blob): Promise<Blob | null> {
  if (file.size > MOST_BYTES) return null;
  try {
    const found = await createImageBitmap(file, { imageOrientation: "from-image" });
    const scale = Math.min(1, LONGEST_PX / Math.max(found.width, found.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(found.width * scale));
    canvas.height = Math.max(1, Math.round(found.height * scale));
    canvas.getContext("2d")?.drawImage(found, 0, 0, canvas.width, canvas.height);
    found.close();
    return await new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.85));
  } catch {
    return null;
  }
}

/** A kept picture as an address that the page may show. */
export function address(file: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.onerror = failed;
    reader.readAsDataURL(file);
  });
}

const PLACE = "evtro.photo-place";

/** Whether photographs are sent with where they were taken; not unless somebody said so here. */
export function placeWanted(): boolean {
  try {
    return localStorage.getItem(PLACE) === "yes";
  } catch {
    return false;
  }
}

export function wantPlace(on: boolean) {
  try {
    localStorage.setItem(PLACE, on ? "yes" : "no");
  } catch {
    // asked again next time then
  }
}

const PATIENCE_MS = 8000;

/** Where this device is, where that is wanted and can be had. */
export function placeNow(): Promise<{ latitude_deg: number; longitude_deg: number } | null> {
  if (!placeWanted() || !navigator.geolocation) return Promise.resolve(null);
  return new Promise((found) =>
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => found({ latitude_deg: coords.latitude, longitude_deg: coords.longitude }),
      () => found(null),
      { enableHighAccuracy: true, timeout: PATIENCE_MS, maximumAge: 60_000 },
    ),
  );
}
