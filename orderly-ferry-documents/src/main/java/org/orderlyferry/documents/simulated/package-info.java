/**
 * A store of documents that is reached over HTTP with a key file, simulated in this process and its memory: for the demo, for tests,
 * and for whoever wants to rehearse. docs/store.md has its interface.
 */
package org.orderlyferry.documents.simulated;
