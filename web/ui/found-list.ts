/** How lists of found things look: the palette's, and those that are searched by what is typed. */
export const FOUND_LIST =
  "[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-slate [&_[cmdk-item]]:cursor-pointer [&_[cmdk-item]]:rounded [&_[cmdk-item]]:px-2 [&_[cmdk-item]]:py-1.5 [&_[cmdk-item][data-selected=true]]:bg-chosen";
