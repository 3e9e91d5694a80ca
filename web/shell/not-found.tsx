import { Link } from "react-router";
import { Notice } from "../ui/notice.tsx";

/** For addresses that lead nowhere. */
export function NotFound() {
  return (
    <div className="p-8">
      <Notice title="Page not found" detail="There is no page at this address.">
        <Link className="underline" to="/">
          Open the review
        </Link>
      </Notice>
    </div>
  );
}
