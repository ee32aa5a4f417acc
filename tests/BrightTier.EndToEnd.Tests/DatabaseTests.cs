using System.Text.RegularExpressions;
using BrightTier.Testing;
using Microsoft.Data.Sqlite;
using Microsoft.Playwright;

namespace BrightTier.EndToEnd.Tests;

/// <summary>A database somebody has gets forms: connected, attached, worked in; and entities in line when it moves on.</summary>
public sealed class DatabaseTests(Chromium chromium)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_database_is_connected_and_its_rows_are_worked_with_in_a_form()
    {
        var file = Path.Combine(RunningService.NewFolder(), "stores.db");
        await Ask(
            file,
            """
            CREATE TABLE supplier (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL);
            CREATE TABLE part (code VARCHAR(20) PRIMARY KEY, name VARCHAR(80) NOT NULL, supplier_id INTEGER REFERENCES supplier (id));
            INSERT INTO supplier VALUES (1, 'Ropes'), (2, 'Sails');
            INSERT INTO part VALUES ('P-1', 'Halyard', 1);
            """
        );
        await using var service = await HostedService.Empty();
        await using var admin = await chromium.OpenForNobody(service);
        var page = admin.Page;
        await page.SetViewportSizeAsync(1280, 800);
        await page.GetByLabel("Code").FillAsync(Regex.Match(service.Output, "bt_[A-Za-z0-9_-]+").Value);
        await page.GetByLabel("Your name").FillAsync("Ada Wader");
        await page.GetByLabel("Password").FillAsync("tide tables and rope");
        await page.GetByLabel("What it is called").FillAsync("Saltmarsh Quay");
        await page.GetByRole(AriaRole.Button, new() { Name = "Set up" }).ClickAsync();
        await page.GetByRole(AriaRole.Link, new() { Name = "Attach a database" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Connect a database" }).ClickAsync();
        await page.GetByLabel("What you call it").FillAsync("stores");
        await page.GetByText("SQLite", new() { Exact = true }).ClickAsync();
        await page.GetByLabel("File on the server").FillAsync(file);
        await page.GetByRole(AriaRole.Button, new() { Name = "Try and keep" }).ClickAsync();

        await page.GetByLabel("part", new() { Exact = true }).CheckAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Choose them too" }).ClickAsync();
        await Assertions.Expect(page.Locator(".attach-sketch")).ToHaveCountAsync(2);
        await page.GetByRole(AriaRole.Button, new() { Name = "Attach 2 tables" }).ClickAsync();
        await page.GetByRole(AriaRole.Link, new() { Name = "Halyard" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Edit" }).ClickAsync();
        // Until the form is one to write in, what bears the label is no field.
        await page.GetByRole(AriaRole.Textbox, new() { Name = "Name" }).FillAsync("Main halyard");
        await page.GetByRole(AriaRole.Button, new() { Name = "Save" }).First.ClickAsync();
        await Assertions.Expect(page.GetByRole(AriaRole.Link, new() { Name = "Main halyard" })).ToBeVisibleAsync();
        (await Ask(file, "SELECT name FROM part")).ShouldBe("Main halyard");

        // The file moves; its entities go along with the connection.
        var moved = Path.Combine(RunningService.NewFolder(), "moved.db");
        File.Move(file, moved);
        await admin.Go("data/databases", "tbody tr");
        await page.GetByRole(AriaRole.Button, new() { Name = "Change…" }).ClickAsync();
        await Assertions.Expect(page.GetByLabel("File on the server")).ToHaveValueAsync(file);
        await page.GetByLabel("File on the server").FillAsync(moved);
        await page.GetByRole(AriaRole.Button, new() { Name = "Try and keep" }).ClickAsync();
        await Assertions.Expect(page.GetByRole(AriaRole.Dialog)).ToHaveCountAsync(0);
        (await Ask(moved, "SELECT name FROM part")).ShouldBe("Main halyard");
        await Ask(moved, "ALTER TABLE part ADD COLUMN shelf VARCHAR(10)");
        await admin.Go("data/databases/stores", ".notice");
        await page.GetByRole(AriaRole.Button, new() { Name = "Bring the entities in line" }).ClickAsync();
        await Assertions.Expect(page.GetByText("In line now, as drafts: part.")).ToBeVisibleAsync();
        admin.Complaints.ShouldBeEmpty();
    }

    private static async Task<string?> Ask(string file, string sql)
    {
        await using var connection = new SqliteConnection($"Data Source={file};Pooling=False");
        await connection.OpenAsync(Cancel);
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        return (await command.ExecuteScalarAsync(Cancel)) as string;
    }
}
