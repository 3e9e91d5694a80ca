import fc from "fast-check";

// Property tests draw the same cases every time; a failure found elsewhere is pinned as an example.
fc.configureGlobal({ seed: 20261031 });
