/** Only ways back into this application; anything else leads to the start. */
export function safeReturn(wanted: string | null): string {
  return wanted && /^\/(?![/\\])/.test(wanted) ? wanted : "/";
}

/** Another page keeps as-of, span, basis and unit; scope, narrowing and chosen KPI belong to the page. */
export function keepFrame(search: string): string {
  const params = new URLSearchParams(search);
  for (const key of Array.from(params.keys())) if (!["asOf", "span", "basis", "unit"].includes(key)) params.delete(key);
  const text = params.toString();
  return text ? `?${text}` : "";
}
