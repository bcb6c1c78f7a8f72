package org.orderlyferry.place;

import static org.apiguardian.api.API.Status.INTERNAL;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;

/**
 * Tables that loads have replaced and that the target keeps beside, so that they can be back in a moment: each load's by a name.
 * They belong to no load and to no reader until then.
 */
@API(status = INTERNAL)
public interface KeptTables {

    /** Why tables that are there couldn't be kept, as a sentence. */
    Optional<String> obstacle(List<TableName> tables);

    /** Which tables are kept by a name, by the names that they had; none where nothing is. */
    List<TableName> of(String name);

    /**
     * Puts what is kept by a name back in its places, with its keys, references, triggers and rights; what stands there goes. All of it
     * is done or, where that fails, nothing.
     *
     * @param going tables that go with those
     */
    void bringBack(String name, List<TableName> going);

    /** Takes away what is kept by a name, if there is any. */
    void drop(String name);
}
