namespace BrightTier.Core.Model;

/// <summary>How large anything may be. Stated here, enforced where things are read and edited, tested.</summary>
public static class Limits
{
    /// <summary>Nodes in one layout.</summary>
    public const int Nodes = 20_000;

    /// <summary>Levels of nodes in one layout; a panel in a cell adds five.</summary>
    public const int Depth = 60;

    /// <summary>Pieces within pieces.</summary>
    public const int PieceDepth = 5;

    /// <summary>Layouts that extend one another.</summary>
    public const int ExtendsDepth = 5;

    /// <summary>Named widths of an application, and entries in one list of words or pairs.</summary>
    public const int Entries = 200;

    /// <summary>Elements in one list of a document that is no layout: choices, rules, entries of a menu.</summary>
    public const int ListLength = 10_000;

    /// <summary>Fields of one entity, the most a table of either database takes with what the service adds.</summary>
    public const int Fields = 1_500;

    /// <summary>Cells in one line of a table: twice as many as an entity has fields.</summary>
    public const int Columns = 3_000;

    /// <summary>Units a row's cells share.</summary>
    public const int Units = 12;

    /// <summary>Characters in a node's id or a document's key.</summary>
    public const int IdLength = 64;

    /// <summary>Characters in what a field or an entity is called when it is made.</summary>
    public const int LabelLength = 100;

    /// <summary>Characters in one text of a layout.</summary>
    public const int TextLength = 4_000;

    /// <summary>Characters in one condition.</summary>
    public const int ConditionLength = 2_000;

    /// <summary>How deep a condition's parts may nest.</summary>
    public const int ConditionDepth = 40;

    /// <summary>Steps one evaluation of a condition may take; what makes a long text or list is counted by its length.</summary>
    public const int ConditionCost = 20_000;

    /// <summary>Edits in one change.</summary>
    public const int Edits = 2_000;

    /// <summary>Characters in one file.</summary>
    public const int FileLength = 8_000_000;

    /// <summary>How deep a file's maps and lists may nest.</summary>
    public const int FileDepth = 160;
}
