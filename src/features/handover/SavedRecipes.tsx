'use client';
import { useEffect, useRef, useState } from 'react';
import { recipeSchema } from '@/contracts/queue';
import { recipeFileReader, type SavedRecipes as Saved } from '@/contracts/recipes';
import type { Project } from '@/core/document/model';
import { isThere, type Recipe } from '@/core/output/recipe';
import { fileNamePart } from '@/core/output/sequenceNames';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { useProject } from '@/features/project/hooks';
import { saveText } from '@/features/project/saveText';
import { fetchRecipes, putRecipe } from '@/features/sync/api';
import { Unreachable } from '@/features/sync/ports';
import { serverRetryer } from '@/features/sync/server';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { toast } from '@/ui/toast';

const NONE: Saved = { project: [], all: [] };

const said = (error: unknown): void => {
  toast.error(error instanceof Error && error.message !== '' ? error.message : 'The server does not answer: try again when it does.');
};

/** The recipes that are saved, and how they change. */
function useSavedRecipes(projectId: string) {
  const [saved, setSaved] = useState<Saved>(NONE);
  useEffect(() => {
    let current = true;
    const load = async () => {
      while (current) {
        try {
          const found = await fetchRecipes(projectId);
          if (current) setSaved(found);
          return;
        } catch (error) {
          if (!(error instanceof Unreachable)) return said(error);
          await serverRetryer.wait();
        }
      }
    };
    void load();
    return () => {
      current = false;
    };
  }, [projectId]);
  const change = async (forAll: boolean, name: string, recipe: Recipe | null): Promise<boolean> => {
    try {
      await putRecipe({ projectId: forAll ? null : projectId, name, recipe: recipe && recipeSchema.parse(recipe) });
      setSaved(await fetchRecipes(projectId));
      return true;
    } catch (error) {
      said(error);
      return false;
    }
  };
  return { saved, change };
}

/** A recipe for a project that may not have its shot or its level: then it is for the whole reel. */
const fitting = (recipe: Recipe, project: Project): Recipe =>
  isThere(project, recipe) ? recipe : { ...recipe, shotId: null, levelId: null, fromText: '', toText: '' };

/** Recipes by their names: taken, saved with the project or for all, taken away, given to another project as a file. */
export function SavedRecipes({ recipe }: { recipe: Recipe }) {
  const project = useProject();
  const { saved, change } = useSavedRecipes(project.id);
  const [chosen, setChosen] = useState('');
  const [name, setName] = useState('');
  const chooser = useRef<HTMLInputElement>(null);
  const all = [...saved.project.map((each) => ({ ...each, forAll: false })), ...saved.all.map((each) => ({ ...each, forAll: true }))].map(
    (each) => ({ ...each, key: `${each.forAll ? 'all' : 'project'} ${each.name}` }),
  );
  const now = all.find(({ key }) => key === chosen);
  const take = (taken: Recipe) => useHandoverStore.setState({ recipe: fitting(taken, project) });
  const save = async (forAll: boolean) => {
    const given = name.trim();
    if (given === '' || !(await change(forAll, given, recipe))) return;
    setChosen(`${forAll ? 'all' : 'project'} ${given}`);
    setName('');
  };
  const bring = async (file: File | undefined) => {
    if (!file) return;
    const value: unknown = await file
      .text()
      .then((text) => JSON.parse(text))
      .catch(() => null);
    const read = recipeFileReader.read(value);
    if (!read.ok) {
      toast.error(read.reason);
      return;
    }
    take(read.value.recipe);
    setName(read.value.name);
  };
  return (
    <details className="rounded-lg border border-line p-2">
      <summary className="cursor-pointer font-semibold text-xs">Recipes{all.length > 0 && `, ${all.length} saved`}</summary>
      <div className="mt-2 space-y-2">
        {all.length > 0 && (
          <Select
            label="Take one"
            value={now?.key ?? ''}
            options={[
              { value: '', label: 'choose …' },
              ...all.map(({ key, name: label, forAll }) => ({ value: key, label: forAll ? `${label} (all projects)` : label })),
            ]}
            onChange={(key) => {
              setChosen(key);
              const found = all.find((each) => each.key === key);
              if (found) take(found.recipe);
            }}
          />
        )}
        <Field label="Save these settings as" maxLength={80} value={name} onChange={setName} />
        <div className="flex flex-wrap gap-1.5">
          <Button disabled={name.trim() === ''} onClick={() => void save(false)}>
            With the project
          </Button>
          <Button disabled={name.trim() === ''} onClick={() => void save(true)}>
            For all projects
          </Button>
          {now && (
            <>
              <Button
                onClick={() =>
                  saveText(
                    `${JSON.stringify({ file: 'lime-tick-recipe', version: recipeFileReader.version, name: now.name, recipe: now.recipe }, null, 2)}\n`,
                    `${fileNamePart(now.name)}.recipe.json`,
                    'application/json',
                  )
                }
              >
                As a file
              </Button>
              <Button kind="warn" onClick={() => void change(now.forAll, now.name, null)}>
                Take “{now.name}” away
              </Button>
            </>
          )}
          <Button onClick={() => chooser.current?.click()}>From a file …</Button>
          <input
            ref={chooser}
            type="file"
            accept=".json,application/json"
            aria-label="A recipe as a file"
            className="sr-only"
            onChange={(event) => {
              void bring(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </div>
      </div>
    </details>
  );
}
