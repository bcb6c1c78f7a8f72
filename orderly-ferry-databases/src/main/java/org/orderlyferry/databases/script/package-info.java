/** Scripts of SQL as files: written for a chosen system, and read without any. */
package org.orderlyferry.databases.script;
