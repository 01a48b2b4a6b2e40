"""The packs at depth: slots left empty, unlike rows emptying and being joined, the bay, what a meter tells of a pack."""
