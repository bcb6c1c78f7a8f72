package org.orderlyferry.databases.dialect;

import org.apiguardian.api.API;

/** Why parts of definitions don't come along, in the same words wherever they are found: in a system's catalogue or in a script. */
@API(status = API.Status.INTERNAL)
public final class NotCarried {

    public static final String UNENFORCED = "it isn't enforced, so records may break it";
    public static final String UNCHECKED = "it was made without a look at the records, which may break it";
    public static final String OVERLAPS = "it comes as one that lets periods overlap";
    public static final String MATCH_FULL =
            "it comes without MATCH FULL: where a part of it is null, the rest isn't looked at";
    public static final String SETS_ALL = "it comes without its list of columns: a deletion sets all of them";
    public static final String TIMING = "it comes without its timing: it holds after each statement";
    public static final String NULLS = "it comes as one to which two nulls aren't the same";
    public static final String INCLUDED = "it comes without the columns that its index includes";
    public static final String ON_UPDATE = "it comes as a column that keeps its moment when its record is changed";
    public static final String INVISIBLE = "it comes as a column like any other, which SELECT * gives as well";
    public static final String HISTORY = "its records are carried as they are now, without their history";
    public static final String PARTITIONS = "its partitions are carried as one table";
    public static final String STRICT = "it comes as a table whose columns take any value";
    public static final String ON_CONFLICT =
            "what becomes of a record that breaks a rule isn't carried: the rule refuses it";
    public static final String NO_COLUMN = "it belongs to no column";

    private NotCarried() {}
}
