package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.DatabaseBuilder;
import com.healthmarketscience.jackcess.DateTimeType;
import com.healthmarketscience.jackcess.Table;
import com.healthmarketscience.jackcess.TableMetaData;
import com.healthmarketscience.jackcess.util.ErrorHandler;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.format.OpenedFiles;
import org.orderlyferry.io.Closing;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/**
 * A file that is read. Nothing in it is changed, no expression of it is computed, and no other file is opened that it names.
 * It has to stand on the disk; one that doesn't is copied there for a while.
 */
final class AccessInput implements OpenedFiles.Opened {

    private static final int HEAD = 19;
    private static final int MARK = 4;

    private final String shown;
    private final OnDisk file;
    private final Database database;
    private @Nullable AccessDefinitions definitions;

    AccessInput(FileSource source) {
        this.shown = source.shown();
        OnDisk opened = null;
        Database read = null;
        try {
            opened = new OnDisk(source, ".accdb");
            read = new DatabaseBuilder(opened.path()).setReadOnly(true).open();
            this.file = opened;
            this.database = read;
            database.setDateTimeType(DateTimeType.LOCAL_DATE_TIME);
            database.setEvaluateExpressions(false);
            database.setLinkResolver((linker, name) -> {
                throw new IOException("it names another file, " + name + ", which isn't opened");
            });
            database.setErrorHandler(ErrorHandler.DEFAULT);
        } catch (IOException | RuntimeException e) {
            Closing.after(e, read, opened);
            throw failed(e);
        }
    }

    /** Whether a file begins as these do. */
    static boolean looksLike(byte[] head) {
        if (head.length < HEAD || head[0] != 0 || head[1] != 1 || head[2] != 0 || head[3] != 0) {
            return false;
        }
        String mark = new String(head, MARK, HEAD - MARK, java.nio.charset.StandardCharsets.ISO_8859_1);
        return mark.equals("Standard Jet DB") || mark.equals("Standard ACE DB");
    }

    Database database() {
        return database;
    }

    /** What it holds, which is found out once. */
    AccessDefinitions definitions() {
        if (definitions == null) {
            definitions = new AccessDefinitions(this);
        }
        return definitions;
    }

    /** The tables that stand in the file itself. */
    List<Table> tables() {
        List<Table> tables = new ArrayList<>();
        for (String name : names()) {
            try {
                TableMetaData data = database.getTableMetaData(name);
                if (!data.isLinked() && !data.isSystem()) {
                    tables.add(database.getTable(name));
                }
            } catch (IOException | RuntimeException e) {
                throw failed(e);
            }
        }
        return tables;
    }

    /** The tables that stand in another file, with that file. */
    List<String> linked() {
        List<String> linked = new ArrayList<>();
        for (String name : names()) {
            try {
                TableMetaData data = database.getTableMetaData(name);
                if (data.isLinked()) {
                    linked.add(name);
                }
            } catch (IOException | RuntimeException e) {
                throw failed(e);
            }
        }
        return linked;
    }

    private List<String> names() {
        try {
            return List.copyOf(database.getTableNames());
        } catch (IOException | RuntimeException e) {
            throw failed(e);
        }
    }

    RuntimeException failed(Exception e) {
        String why = e.getClass().getSimpleName().contains("UnsupportedCodec")
                ? "it is encrypted; save it without a password first"
                : String.valueOf(e.getMessage());
        return new MalformedFileException(
                new Origin("", shown, 0, true), "can't be read as a desktop database: " + why);
    }

    @Override
    public void close() {
        try {
            database.close();
        } catch (IOException e) {
            throw new PlaceException(shown, "can't be closed: " + e.getMessage(), e);
        } finally {
            file.close();
        }
    }
}
