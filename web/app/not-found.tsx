import { Link } from "react-router";
import { Notice } from "../ui/notice.tsx";

/** For addresses that lead nowhere. */
export function NotFound() {
  return (
    <div className="p-8">
      <Notice title="There is no such page" detail="The address leads nowhere in Hackle.">
        <Link className="underline" to="/">
          Open the review
        </Link>
      </Notice>
    </div>
  );
}
