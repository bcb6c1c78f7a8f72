/** What makes the archives that people install; used while they are built, and by nobody else. */
package org.orderlyferry.dist;
