/** SQL text: taking it apart into tokens, and carrying expressions from one system's SQL to another's. */
package org.orderlyferry.databases.sql;
