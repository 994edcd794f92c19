/** In front of every page: foreign hosts are refused, and the page may load nothing from elsewhere. */
import { NextRequest, NextResponse } from "next/server";
import { refuseForeign } from "@/server/front/guard";

export function proxy(request: NextRequest) {
  // Following a link from elsewhere to a page is fine, so where it was followed from does not count here.
  const refusal = refuseForeign(
    { host: request.headers.get("host"), origin: request.headers.get("origin"), site: null },
    process.env.HOST,
  );
  if (refusal) return NextResponse.json({ error: { message: refusal } }, { status: 403 });

  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const development = process.env.NODE_ENV === "development";
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ""}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("Content-Security-Policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("Content-Security-Policy", policy);
  return response;
}

// The interface under /api guards itself (`handle`): bodies that pass through here would be held in memory whole.
export const config = { matcher: ["/((?!api/|_next/static|_next/image|icon.svg).*)"] };
